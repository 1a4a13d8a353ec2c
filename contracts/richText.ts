import { z } from 'zod';
import { ownPathOf } from './ownPath';
import { MEASURES } from './traced';

/**
 * Text as it is written in a note, a question or a conclusion: paragraphs with bold words, lists, quotes, people who are
 * spoken to, and figures, lines, entries and documents that are quoted. It is kept as this tree and never as HTML, and
 * has no place for anything that is not named here.
 */
const LETTERS_MAX = 8_000;
const NODES_MAX = 400;
const DEPTH_MAX = 8;

const words = z.strictObject({
  type: z.literal('text'),
  text: z.string().min(1).max(LETTERS_MAX),
  marks: z
    .array(z.strictObject({ type: z.literal('bold') }))
    .max(1)
    .optional(),
});
const lineBreak = z.strictObject({ type: z.literal('hardBreak') });
const mention = z.strictObject({
  type: z.literal('mention'),
  attrs: z.strictObject({ person: z.number().int().positive(), name: z.string().max(200) }),
});

/** A figure, line, entry or document in the middle of a text. What it came to is written in by whoever keeps the text. */
export const quotedSchema = z.strictObject({
  subject: z.string().min(1).max(6_000),
  measure: z.enum(MEASURES).nullable(),
  label: z.string().max(300),
  /** The screen of our own that shows it; no other place. */
  address: z
    .string()
    .max(8_000)
    .refine(
      (address) => address === '' || (/^\/(?![/\\])/.test(address) && ownPathOf(address) !== null),
      'give the address of a screen, which begins with /',
    ),
  currency: z.string().nullable().default(null),
  value: z.string().nullable().default(null),
  lines: z.number().nullable().default(null),
  load: z.number().nullable().default(null),
  /** What it comes to on the newest load, where that is another by now; told, and never kept. */
  now: z.string().nullable().default(null),
  moved: z.boolean().default(false),
});
export type Quoted = z.infer<typeof quotedSchema>;
const quoted = z.strictObject({ type: z.literal('quoted'), attrs: quotedSchema });

const inline = z.discriminatedUnion('type', [words, lineBreak, mention, quoted]);
const paragraph = z.strictObject({ type: z.literal('paragraph'), content: z.array(inline).optional() });

export type Inline = z.infer<typeof inline>;
export interface Paragraph {
  type: 'paragraph';
  content?: Inline[] | undefined;
}
export type Block =
  | Paragraph
  | { type: 'bulletList' | 'orderedList'; content: ListItem[] }
  | { type: 'blockquote'; content: Block[] };
export interface ListItem {
  type: 'listItem';
  content: Block[];
}
export interface RichText {
  type: 'doc';
  content: Block[];
}

const block: z.ZodType<Block> = z.lazy(() =>
  z.union([
    paragraph,
    z.strictObject({ type: z.enum(['bulletList', 'orderedList']), content: z.array(listItem).min(1) }),
    z.strictObject({ type: z.literal('blockquote'), content: z.array(block).min(1) }),
  ]),
) as z.ZodType<Block>;
const listItem: z.ZodType<ListItem> = z.strictObject({
  type: z.literal('listItem'),
  content: z.array(block).min(1),
}) as z.ZodType<ListItem>;

/** How deep what was sent goes, before anything that follows it down is let begin. */
function depthOf(value: unknown, most: number): number {
  if (most === 0 || value === null || typeof value !== 'object') return 0;
  return 1 + Math.max(0, ...Object.values(value).map((v) => depthOf(v, most - 1)));
}

/** Objects and lists within each other, of which a list in a list in a quote has about four for each step. */
const NESTED_MAX = 4 * DEPTH_MAX;

export const richTextSchema = z
  .unknown()
  .refine((value) => depthOf(value, NESTED_MAX + 1) <= NESTED_MAX, 'lists and quotes are too deep within each other')
  .pipe(z.strictObject({ type: z.literal('doc'), content: z.array(block).min(1).max(NODES_MAX) }))
  .refine((doc) => inlinesOf(doc).length <= NODES_MAX, `it holds at most ${NODES_MAX} pieces`)
  .refine((doc) => plainText(doc).length <= LETTERS_MAX, `it has at most ${LETTERS_MAX} letters`);

/** Every piece of text in it, in order. */
export function inlinesOf({ content }: RichText): Inline[] {
  const within = (b: Block | ListItem): Inline[] =>
    b.type === 'paragraph' ? (b.content ?? []) : (b.content as (Block | ListItem)[]).flatMap(within);
  return content.flatMap(within);
}

export const quotesIn = (doc: RichText): Quoted[] =>
  inlinesOf(doc).flatMap((i) => (i.type === 'quoted' ? [i.attrs] : []));

/** The people who are spoken to, each once. */
export const mentionsIn = (doc: RichText): number[] => [
  ...new Set(inlinesOf(doc).flatMap((i) => (i.type === 'mention' ? [i.attrs.person] : []))),
];

/** The same text with every quote changed. */
export function withQuotes(doc: RichText, change: (quote: Quoted) => Quoted): RichText {
  const changed = <Of extends Block | ListItem>(b: Of): Of =>
    (b.type === 'paragraph'
      ? {
          ...b,
          ...(b.content
            ? { content: b.content.map((i) => (i.type === 'quoted' ? { ...i, attrs: change(i.attrs) } : i)) }
            : {}),
        }
      : { ...b, content: (b.content as (Block | ListItem)[]).map(changed) }) as Of;
  return { ...doc, content: doc.content.map(changed) };
}

/**
 * What it says, to be searched and read where there is no room for more. A quoted figure is told by its name alone: what
 * it came to is for those who may see it.
 */
export function plainText({ content }: RichText): string {
  const said = (i: Inline): string => {
    switch (i.type) {
      case 'text':
        return i.text;
      case 'hardBreak':
        return '\n';
      case 'mention':
        return `@${i.attrs.name}`;
      case 'quoted':
        return `[${i.attrs.label}]`;
    }
  };
  const lines = (b: Block | ListItem, before: string): string[] => {
    switch (b.type) {
      case 'paragraph':
        return [`${before}${(b.content ?? []).map(said).join('')}`];
      case 'bulletList':
        return b.content.flatMap((item) => lines(item, `${before}• `));
      case 'orderedList':
        return b.content.flatMap((item, at) => lines(item, `${before}${at + 1}. `));
      case 'blockquote':
        return b.content.flatMap((within) => lines(within, `${before}> `));
      case 'listItem':
        return b.content.flatMap((within, at) => lines(within, at === 0 ? before : `${before.replace(/\S/g, ' ')}`));
    }
  };
  return content
    .flatMap((b) => lines(b, ''))
    .join('\n')
    .trim();
}
