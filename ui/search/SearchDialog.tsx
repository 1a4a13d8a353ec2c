'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Modal } from '../parts/Modal';
import { SearchList } from './SearchList';

const EACH = 5;

/** The search, over whatever screen one is at. */
export function SearchDialog({ onClose }: { onClose(): void }) {
  const [words, setWords] = useState('');
  const router = useRouter();
  return (
    <Modal title="Find" className="top-[7vh] flex h-[min(80vh,680px)] w-[880px] flex-col pb-4" onClose={onClose}>
      <SearchList
        words={words}
        onWords={setWords}
        limit={EACH}
        onKind={(kind) => {
          onClose();
          router.push(`/find?${new URLSearchParams({ q: words.trim(), ...(kind ? { kind } : {}) })}`);
        }}
        onGone={onClose}
      />
    </Modal>
  );
}
