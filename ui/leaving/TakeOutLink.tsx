'use client';

import { useState } from 'react';
import { later } from '../parts/later';

const TakeOutDialog = later(() => import('./TakeOutDialog').then((m) => m.TakeOutDialog));

/** Takes out what a page lists. @param path what the interface is asked for it */
export function TakeOutLink({ path, label }: { path: string; label: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        className="cursor-pointer text-[13.5px] text-soft hover:text-ink print:hidden"
        title="As a spreadsheet, on paper, as text"
        onClick={() => setOpen(true)}
      >
        Take out
      </button>
      {open && (
        <TakeOutDialog
          path={path}
          page={`${window.location.pathname}${window.location.search}`}
          label={label}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}
