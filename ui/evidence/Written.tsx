import Link from 'next/link';
import { Fragment, type ReactNode } from 'react';
import type { Block, Inline, ListItem, Quoted, RichText } from '@/contracts/richText';
import { amountText } from '../amounts';

/** A text as it was written: plain words, or the editor's tree. Nothing in it is taken for HTML. */
export function Written({ body, content }: { body: string; content: RichText | null }) {
  if (content === null) return <p className="whitespace-pre-wrap">{body}</p>;
  return <div className="flex flex-col gap-1">{content.content.map(blockAt)}</div>;
}

/** A place in a text is what tells its pieces apart: it is shown whole, and never put in another order. */
const blockAt = (block: Block | ListItem, at: number): ReactNode => {
  switch (block.type) {
    case 'paragraph':
      return <p key={at}>{(block.content ?? []).map((piece, i) => inlineAt(piece, i))}</p>;
    case 'bulletList':
      return (
        <ul key={at} className="ml-4 list-disc">
          {block.content.map(blockAt)}
        </ul>
      );
    case 'orderedList':
      return (
        <ol key={at} className="ml-4 list-decimal">
          {block.content.map(blockAt)}
        </ol>
      );
    case 'listItem':
      return <li key={at}>{block.content.map(blockAt)}</li>;
    case 'blockquote':
      return (
        <blockquote key={at} className="border-l-2 border-rule pl-2">
          {block.content.map(blockAt)}
        </blockquote>
      );
  }
};

const inlineAt = (piece: Inline, at: number): ReactNode => {
  switch (piece.type) {
    case 'text':
      return piece.marks?.length ? <strong key={at}>{piece.text}</strong> : <Fragment key={at}>{piece.text}</Fragment>;
    case 'hardBreak':
      return <br key={at} />;
    case 'mention':
      return (
        <span key={at} className="font-semibold">
          @{piece.attrs.name}
        </span>
      );
    case 'quoted':
      return <QuotedFigure key={at} quote={piece.attrs} />;
  }
};

/** What a quote comes to, in words. */
export function quoteSays(quote: Quoted): string {
  if (quote.value === null) return quote.label;
  const amount = `${quote.currency ?? ''} ${amountText(quote.value)}`.trim();
  // A figure is its amount; a line, an entry or a document is itself, and has one.
  return quote.subject.startsWith('figure:') ? amount : `${quote.label}, ${amount}`;
}

/** A figure in the middle of a text: its amount, what it is on pointing at it, and its sheet on a click. */
export function QuotedFigure({ quote }: { quote: Quoted }) {
  const moved = quote.moved ? (
    <span className="text-warn"> ≠ now {quote.now === null ? 'gone' : amountText(quote.now)}</span>
  ) : null;
  const title = `${quote.label}${quote.load === null ? '' : `, as of load ${quote.load}`}`;
  const look =
    'rounded-[2px] border border-rule bg-sheet px-1 font-semibold whitespace-nowrap tabular-nums decoration-rule';
  if (quote.address === '')
    return (
      <span className={look} title={title}>
        {quoteSays(quote)}
        {moved}
      </span>
    );
  return (
    <Link href={quote.address} className={`${look} hover:border-ink`} title={`${title}. Opens its sheet.`}>
      {quoteSays(quote)}
      {moved}
    </Link>
  );
}
