'use client';

import { type FormEvent, type ReactNode, useState } from 'react';

/** What is before the first screen: the name of the place, and one form with one button. What goes wrong is said above the button. */
export function Door({
  says,
  title,
  button,
  send,
  begins,
  other,
  children,
}: {
  says: string;
  title: string;
  /** What its button says, and while it works. */
  button: { words: string; busyWords: string };
  /** Leads on to another page, or stays for more that is to be said; or throws an error that says what is wrong. */
  send(form: FormData): Promise<unknown>;
  /** What went wrong before it was opened. */
  begins?: string;
  /** Another way in. */
  other?: { words: string; to: string };
  children: ReactNode;
}) {
  const [fault, setFault] = useState<string | null>(begins ?? null);
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    setBusy(true);
    setFault(null);
    try {
      if ((await send(new FormData(event.currentTarget))) === 'stays') setBusy(false);
    } catch (problem) {
      setFault((problem as Error).message);
      setBusy(false);
    }
  };
  return (
    <main className="grid min-h-screen place-items-center p-6">
      <div className="w-[380px]">
        <p className="font-book text-[30px] leading-9 font-semibold">
          Just Thread<span className="text-thread">.</span>
        </p>
        <p className="mt-1 mb-7 text-soft">{says}</p>
        <form onSubmit={(event) => void submit(event)} className="border border-rule bg-sheet p-6">
          <h1 className="mb-4 font-book text-[18px] font-semibold">{title}</h1>
          <div className="grid gap-3">{children}</div>
          <p role="alert" className="min-h-8 pt-2 text-warn">
            {fault}
          </p>
          <button type="submit" disabled={busy} className="button-main w-full justify-center">
            {busy ? button.busyWords : button.words}
          </button>
          {other && (
            // It leads to another place, which only a whole page can go to.
            <a href={other.to} className="button mt-2 w-full justify-center">
              {other.words}
            </a>
          )}
        </form>
      </div>
    </main>
  );
}
