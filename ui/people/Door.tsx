'use client';

import type { FormEvent, ReactNode } from 'react';

/** What stands before the first screen: the name of the place, and one form with one button. */
export function Door({
  says,
  title,
  button,
  fault,
  onSubmit,
  children,
}: {
  says: string;
  title: string;
  /** What its button says, and while it works. */
  button: { words: string; busy: boolean; busyWords: string };
  fault: string | null;
  onSubmit(event: FormEvent<HTMLFormElement>): void;
  children: ReactNode;
}) {
  return (
    <main className="grid min-h-screen place-items-center p-6">
      <div className="w-[380px]">
        <p className="font-book text-[30px] leading-9 font-semibold">
          Just Thread<span className="text-thread">.</span>
        </p>
        <p className="mt-1 mb-7 text-soft">{says}</p>
        <form onSubmit={onSubmit} className="border border-rule bg-sheet p-6">
          <h1 className="mb-4 font-book text-[18px] font-semibold">{title}</h1>
          <div className="grid gap-3">{children}</div>
          <p role="alert" className="min-h-8 pt-2 text-warn">
            {fault}
          </p>
          <button type="submit" disabled={button.busy} className="button-main w-full justify-center">
            {button.busy ? button.busyWords : button.words}
          </button>
        </form>
      </div>
    </main>
  );
}
