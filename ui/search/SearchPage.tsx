'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { useState } from 'react';
import { HIT_KINDS, type HitKind } from '@/contracts/answers/search';
import { KIND_NAMES } from './recent';
import { SearchList } from './SearchList';

const EACH = 8;
const OF_ONE = 50;

/** The search as a place: more of each kind, all of one kind page by page, with its address. */
export function SearchPage() {
  const params = useSearchParams();
  const router = useRouter();
  const kind = HIT_KINDS.find((k) => k === params.get('kind')) ?? null;
  const after = Number(params.get('after') ?? 0) || 0;
  const [words, setWords] = useState(params.get('q') ?? '');
  const to = (q: string, of: HitKind | null, from: number): string => {
    const query = new URLSearchParams(q ? { q } : {});
    if (of) query.set('kind', of);
    if (from > 0) query.set('after', String(from));
    return query.size > 0 ? `/find?${query}` : '/find';
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col px-[26px] pt-4 pb-3">
      <h1 className="mb-3 font-book text-[22px] leading-[28px] font-semibold">
        Find{kind && <span className="font-normal"> · {KIND_NAMES[kind].toLowerCase()}</span>}
      </h1>
      <div className="flex min-h-0 w-full max-w-[1080px] flex-1 flex-col">
        <SearchList
          words={words}
          onWords={(typed) => {
            setWords(typed);
            window.history.replaceState(null, '', to(typed.trim(), kind, 0));
          }}
          kind={kind}
          onKind={(of) => router.push(to(words.trim(), of, 0))}
          limit={kind ? OF_ONE : EACH}
          after={after}
          onAfter={(from) => router.push(to(words.trim(), kind, from))}
        />
      </div>
    </div>
  );
}
