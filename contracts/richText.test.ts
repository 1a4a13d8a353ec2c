import { expect, test } from 'vitest';
import { type Block, mentionsIn, plainText, quotesIn, richTextSchema, withQuotes } from './richText';

const words = (text: string, bold = false) => ({
  type: 'text' as const,
  text,
  ...(bold ? { marks: [{ type: 'bold' as const }] } : {}),
});
const quote = (address: string) => ({
  type: 'quoted' as const,
  attrs: {
    subject: 'figure:entity=A',
    measure: 'closing' as const,
    label: '6310 Repairs',
    address,
    value: '12.00',
    currency: 'GBP',
  },
});
const doc = (...content: unknown[]) => ({ type: 'doc', content });
const paragraph = (...content: unknown[]) => ({ type: 'paragraph', content });

test('a text is read as it was written, and its plain form names figures without what they came to', () => {
  const list = {
    type: 'bulletList',
    content: [{ type: 'listItem', content: [paragraph(words('one')), paragraph(words('more'))] }],
  };
  const said = richTextSchema.parse(
    doc(
      paragraph(words('Of '), quote('/lines?entity=A'), words(' ask '), {
        type: 'mention',
        attrs: { person: 3, name: 'Ada' },
      }),
      list,
      { type: 'orderedList', content: [{ type: 'listItem', content: [paragraph(words('first', true))] }] },
      { type: 'blockquote', content: [paragraph(words('as was said'))] },
    ),
  );
  expect(plainText(said)).toBe('Of [6310 Repairs] ask @Ada\n• one\n  more\n1. first\n> as was said');
  expect(plainText(said)).not.toContain('12.00');
  expect([mentionsIn(said), quotesIn(said).map((q) => q.value)]).toEqual([[3], ['12.00']]);
  expect(quotesIn(withQuotes(said, (q) => ({ ...q, value: null }))).map((q) => q.value)).toEqual([null]);
});

test('a text holds nothing but its own form: no other piece, no attribute, no place elsewhere, no depth without end', () => {
  const refused: unknown[] = [
    'plain',
    doc(),
    doc({ type: 'html', content: '<script>alert(1)</script>' }),
    doc(paragraph({ type: 'image', attrs: { src: 'https://elsewhere.example/x.png' } })),
    doc(paragraph({ ...words('x'), marks: [{ type: 'link', attrs: { href: 'https://elsewhere.example' } }] })),
    doc({ ...paragraph(words('x')), attrs: { onclick: 'alert(1)' } }),
    ...['https://elsewhere.example/', 'javascript:alert(1)', '//elsewhere.example', '/\\elsewhere.example'].map((a) =>
      doc(paragraph(quote(a))),
    ),
    doc(paragraph(words('x'.repeat(9_000)))),
  ];
  let deep: Block = { type: 'paragraph' };
  for (let i = 0; i < 5_000; i++) deep = { type: 'blockquote', content: [deep] };
  refused.push(doc(deep));
  for (const [i, text] of refused.entries()) expect(richTextSchema.safeParse(text).success, `text ${i}`).toBe(false);
  expect(richTextSchema.safeParse(doc(paragraph(quote('')))).success).toBe(true);
});
