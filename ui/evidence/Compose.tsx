'use client';

import { type ReactNode, useState } from 'react';
import type { RichText } from '@/contracts/richText';
import { later } from '../parts/later';
import { Failure } from '../parts/Place';
import { INK } from '../sheet/ink';
import { useMe } from '../shell/me';

const Editor = later(() => import('./Editor').then((m) => m.Editor), <div className="h-[104px] border border-rule" />);

/** A text that is being written, with what it is sent by. */
export function Compose({
  label,
  send,
  begin,
  onSend,
  onCancel,
  children,
}: {
  label: string;
  /** What the button says. */
  send: string;
  begin?: RichText | string | undefined;
  /** @throws what is said below the text */
  onSend(body: RichText | string): Promise<unknown>;
  onCancel(): void;
  /** What else is to be said, above the buttons. */
  children?: ReactNode;
}) {
  const { role } = useMe();
  const [body, setBody] = useState<RichText | string>(begin ?? '');
  const [problem, setProblem] = useState<Error | null>(null);
  const [busy, setBusy] = useState(false);
  const done = async (): Promise<void> => {
    if (body === '' || busy) return;
    setBusy(true);
    try {
      await onSend(body);
    } catch (error) {
      setProblem(error as Error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void done();
      }}
      onKeyDown={(event) => event.stopPropagation()}
      className="panel relative p-2"
    >
      <Editor
        label={label}
        className={role === 'reviewer' || role === 'reader' ? INK[role] : INK.preparer}
        begin={begin}
        onChange={setBody}
        onDone={() => void done()}
        onCancel={onCancel}
      />
      {children}
      <Failure error={problem} />
      <div className="mt-1 flex gap-2">
        <button type="submit" disabled={busy || body === ''} className="button-main h-7 px-2">
          {send}
        </button>
        <button type="button" onClick={onCancel} className="button h-7 px-2">
          Cancel
        </button>
      </div>
    </form>
  );
}
