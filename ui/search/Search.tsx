'use client';

import { useEffect, useState } from 'react';
import { later } from '../parts/later';

const SearchDialog = later(() => import('./SearchDialog').then((m) => m.SearchDialog));

/** The search by Ctrl K, or Command K, wherever one is. */
export function Search() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey) || event.altKey || event.shiftKey)
        return;
      event.preventDefault();
      setOpen((is) => !is);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  return open && <SearchDialog onClose={() => setOpen(false)} />;
}
