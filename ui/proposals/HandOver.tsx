'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Select } from '../parts/Select';

const FORMATS = { csv: 'CSV', xlsx: 'a spreadsheet', ads: 'an audit data standard journal' } as const;

/** Approved entries as a file for the ledger to book. @param ids null: all that were not handed over yet */
export function HandOver({
  ids,
  many,
  className = '',
}: {
  ids: readonly number[] | null;
  many: number;
  className?: string;
}) {
  const [format, setFormat] = useState<keyof typeof FORMATS>('csv');
  const client = useQueryClient();
  const params = new URLSearchParams([
    ['format', format],
    ...(ids ?? []).map((id): [string, string] => ['ids', String(id)]),
  ]);
  return (
    <span className={`flex items-baseline gap-x-2 ${className}`}>
      <a
        href={`/api/v1/proposed-entries/export?${params}`}
        download
        className="button-main"
        // The list says that they were handed over once the file is there.
        onClick={() => setTimeout(() => void client.invalidateQueries(), AFTER_MS)}
      >
        Hand {many} over
      </a>
      as
      <Select
        look="word"
        aria-label="As which file"
        value={format}
        onChange={(event) => setFormat(event.target.value as keyof typeof FORMATS)}
      >
        {Object.entries(FORMATS).map(([name, says]) => (
          <option key={name} value={name}>
            {says}
          </option>
        ))}
      </Select>
    </span>
  );
}

const AFTER_MS = 1_500;
