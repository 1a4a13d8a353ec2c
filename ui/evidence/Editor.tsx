'use client';

import { mergeAttributes, Node } from '@tiptap/core';
import { Blockquote } from '@tiptap/extension-blockquote';
import { Bold } from '@tiptap/extension-bold';
import { Document } from '@tiptap/extension-document';
import { HardBreak } from '@tiptap/extension-hard-break';
import { BulletList, ListItem, OrderedList } from '@tiptap/extension-list';
import { Mention } from '@tiptap/extension-mention';
import { Paragraph } from '@tiptap/extension-paragraph';
import { Text } from '@tiptap/extension-text';
import { Placeholder, UndoRedo } from '@tiptap/extensions';
import { EditorContent, NodeViewWrapper, ReactNodeViewRenderer, useEditor } from '@tiptap/react';
import type { SuggestionProps } from '@tiptap/suggestion';
import { useEffect, useRef, useState } from 'react';
import { plainText, type Quoted, type RichText } from '@/contracts/richText';
import { amountText } from '../amounts';
import { CARRIED, readCarried } from './quoting';
import { useColleagues } from './useEvidence';

export interface EditorProps {
  label: string;
  /** In whose ink. */
  className?: string;
  begin?: RichText | string | undefined;
  /** Whether somebody may be spoken to in it, with @. */
  people?: boolean;
  /** Whether the keyboard is there when it is opened. */
  focused?: boolean;
  onChange(text: RichText | string): void;
  /** Control Enter. */
  onDone(): void;
  onCancel(): void;
}

/** A figure, a line, an entry or a document in the middle of a text; it is one piece, and is taken out whole. */
const QuotedNode = Node.create({
  name: 'quoted',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({
    subject: { default: '' },
    measure: { default: null },
    label: { default: '' },
    address: { default: '' },
    currency: { default: null },
    value: { default: null },
    lines: { default: null },
    load: { default: null },
    now: { default: null },
    moved: { default: false },
  }),
  renderHTML: ({ HTMLAttributes }) => ['span', mergeAttributes({ 'data-quoted': '' }, HTMLAttributes)],
  addNodeView: () => ReactNodeViewRenderer(Quote, { as: 'span' }),
});

function Quote({ node }: { node: { attrs: Record<string, unknown> } }) {
  const quote = node.attrs as unknown as Quoted;
  return (
    <NodeViewWrapper
      as="span"
      title={quote.label}
      className="rounded-[2px] border border-rule bg-paper px-1 font-semibold whitespace-nowrap"
    >
      {quote.value === null ? quote.label : amountText(quote.value)}
    </NodeViewWrapper>
  );
}

interface Offered {
  items: { id: number; name: string }[];
  at: { left: number; top: number };
  chosen: number;
  take(item: { id: number; name: string }): void;
}

/** A text with bold words, lists, quotes, people who are spoken to (@) and figures that are pasted from a sheet. */
export function Editor({
  label,
  className = '',
  begin,
  people = true,
  focused = true,
  onChange,
  onDone,
  onCancel,
}: EditorProps) {
  const colleagues = useColleagues();
  const spokenTo = useRef(colleagues.data?.rows ?? []);
  spokenTo.current = colleagues.data?.rows ?? [];
  const [offered, setOffered] = useState<Offered | null>(null);
  const shown = useRef<Offered | null>(null);
  shown.current = offered;
  const acts = useRef({ onDone, onCancel });
  acts.current = { onDone, onCancel };
  const editor = useEditor({
    immediatelyRender: false,
    extensions: [
      ...[
        Document,
        Paragraph,
        Text,
        Bold,
        BulletList,
        OrderedList,
        ListItem,
        Blockquote,
        HardBreak,
        UndoRedo,
        QuotedNode,
      ],
      Placeholder.configure({ placeholder: people ? label : '' }),
      ...(people ? [SpokenTo(spokenTo, setOffered, shown)] : []),
    ],
    content: begin === undefined ? '' : typeof begin === 'string' ? { type: 'doc', content: linesOf(begin) } : begin,
    editorProps: {
      attributes: {
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': label,
        class: 'min-h-[76px] outline-none',
      },
      handleKeyDown: (_view, event) => {
        event.stopPropagation();
        if (shown.current) return false;
        if (event.key === 'Escape') {
          acts.current.onCancel();
          return true;
        }
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
          acts.current.onDone();
          return true;
        }
        return false;
      },
      handlePaste: (view, event) => {
        const carried = readCarried(event.clipboardData?.getData(CARRIED) ?? '');
        if (!carried) return false;
        const node = view.state.schema.nodes.quoted?.create({ ...carried, currency: null, lines: null, load: null });
        if (node) view.dispatch(view.state.tr.replaceSelectionWith(node, false).insertText(' ').scrollIntoView());
        return true;
      },
    },
    onUpdate: ({ editor: now }) => onChange(simple(now.getJSON() as RichText)),
  });
  useEffect(() => {
    if (focused) editor?.commands.focus('end');
  }, [editor, focused]);
  return (
    <div
      className={`relative rounded-[2px] border border-rule bg-sheet focus-within:outline-2 focus-within:outline-ink ${className}`}
    >
      <EditorContent
        editor={editor}
        className="written max-h-[50vh] overflow-y-auto px-2 py-1 break-words [&_blockquote]:border-l-2 [&_blockquote]:border-rule [&_blockquote]:pl-2 [&_ol]:ml-4 [&_ol]:list-decimal [&_ul]:ml-4 [&_ul]:list-disc [&_p.is-editor-empty:first-child]:before:pointer-events-none [&_p.is-editor-empty:first-child]:before:float-left [&_p.is-editor-empty:first-child]:before:h-0 [&_p.is-editor-empty:first-child]:before:text-faint [&_p.is-editor-empty:first-child]:before:content-[attr(data-placeholder)]"
      />
      <div className="flex gap-1 border-t border-hair px-1 py-0.5">
        {editor && (
          <>
            <Tool
              name="Bold"
              sign="B"
              on={editor.isActive('bold')}
              act={() => editor.chain().focus().toggleBold().run()}
            />
            <Tool
              name="List"
              sign="•"
              on={editor.isActive('bulletList')}
              act={() => editor.chain().focus().toggleBulletList().run()}
            />
            <Tool
              name="Numbered list"
              sign="1."
              on={editor.isActive('orderedList')}
              act={() => editor.chain().focus().toggleOrderedList().run()}
            />
            <Tool
              name="Quote"
              sign="›"
              on={editor.isActive('blockquote')}
              act={() => editor.chain().focus().toggleBlockquote().run()}
            />
          </>
        )}
        <span className="ml-auto self-center text-[12px] text-faint">
          {people ? '@ speaks to somebody' : 'a copied figure is pasted as a figure'}
        </span>
      </div>
      {offered && offered.items.length > 0 && (
        <ul
          aria-label="Colleagues"
          className="panel fixed z-50 max-h-[180px] overflow-y-auto py-1"
          style={{ left: offered.at.left, top: offered.at.top }}
        >
          {offered.items.map((item, i) => (
            <li key={item.id}>
              <button
                type="button"
                onMouseDown={(event) => {
                  event.preventDefault();
                  offered.take(item);
                }}
                className={`block w-full cursor-pointer px-3 py-[2px] text-left ${i === offered.chosen ? 'bg-chosen font-semibold' : ''}`}
              >
                {item.name}
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

const Tool = ({ name, sign, on, act }: { name: string; sign: string; on: boolean; act(): void }) => (
  <button
    type="button"
    aria-label={name}
    aria-pressed={on}
    title={name}
    onClick={act}
    className={`h-6 min-w-6 cursor-pointer rounded-[2px] px-1 text-[12.5px] ${on ? 'bg-chosen font-semibold text-ink' : 'text-soft hover:text-ink'}`}
  >
    {sign}
  </button>
);

/** People are offered as one types @ and a part of their name. */
const SpokenTo = (
  people: { current: readonly { id: number; name: string }[] },
  offer: (offered: Offered | null) => void,
  shown: { current: Offered | null },
) =>
  Mention.extend({
    addAttributes: () => ({ person: { default: 0 }, name: { default: '' } }),
    renderText: ({ node }) => `@${node.attrs.name}`,
    renderHTML: ({ node, HTMLAttributes }) => ['strong', HTMLAttributes, `@${node.attrs.name}`],
  }).configure({
    suggestion: {
      char: '@',
      items: ({ query }) =>
        people.current.filter((p) => p.name.toLowerCase().includes(query.toLowerCase())).slice(0, 8),
      command: ({ editor, range, props }) => {
        const item = props as unknown as { id: number; name: string };
        editor
          .chain()
          .focus()
          .insertContentAt(range, [
            { type: 'mention', attrs: { person: item.id, name: item.name } },
            { type: 'text', text: ' ' },
          ])
          .run();
      },
      render: () => {
        const show = (props: SuggestionProps<{ id: number; name: string }>, chosen = 0): void => {
          const box = props.clientRect?.();
          offer({
            items: props.items,
            at: { left: box?.left ?? 0, top: (box?.bottom ?? 0) + 4 },
            chosen,
            take: (item) => props.command(item as never),
          });
        };
        return {
          onStart: show,
          onUpdate: show,
          onExit: () => offer(null),
          onKeyDown: ({ event }) => {
            const now = shown.current;
            if (!now || now.items.length === 0) return false;
            const item = now.items[now.chosen];
            if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
              const by = event.key === 'ArrowDown' ? 1 : -1;
              offer({ ...now, chosen: (now.chosen + by + now.items.length) % now.items.length });
              return true;
            }
            if ((event.key === 'Enter' || event.key === 'Tab') && item) {
              now.take(item);
              return true;
            }
            if (event.key === 'Escape') {
              offer(null);
              return true;
            }
            return false;
          },
        };
      },
    },
  });

const linesOf = (text: string) =>
  text.split('\n').map((line) => ({ type: 'paragraph', ...(line ? { content: [{ type: 'text', text: line }] } : {}) }));

/** What the editor holds, as it is kept: without how lists are numbered, and plain where it is nothing but words. */
function simple(held: RichText): RichText | string {
  const doc = JSON.parse(JSON.stringify(held), (name, value: unknown) =>
    name === 'attrs' && value !== null && typeof value === 'object' && 'start' in value ? undefined : value,
  ) as RichText;
  const bare = doc.content.every(
    (b) => b.type === 'paragraph' && (b.content ?? []).every((i) => i.type === 'text' && !i.marks?.length),
  );
  return bare ? plainText(doc) : doc;
}
