'use client';

import { type FormEvent, useState } from 'react';
import { LEAF_FORMATS } from '@/contracts/leaves';
import { Modal, ModalClose } from '../parts/Modal';
import { useDebounced } from '../query/useDebounced';
import { HowFields } from './HowFields';
import { FORMAT_WORD, fileAddress, lastWanted, rememberWanted, type Wanted } from './how';
import { OtherWays } from './OtherWays';
import { PaperPreview } from './PaperPreview';
import { Templates } from './Templates';

/** Has the sheet leave as a file: as which, how, and on paper how it will look. */
export function TakeOutDialog({
  path,
  page,
  label,
  onClose,
}: {
  /** What the interface is asked for it. */
  path: string;
  /** The page that shows it live. */
  page: string;
  label: string;
  onClose(): void;
}) {
  const [wanted, setWanted] = useState<Wanted>(lastWanted);
  const onPaper = wanted.format === 'pdf';
  const preview = useDebounced(fileAddress(path, { ...wanted, page, preview: 'yes' }), SETTLE_MS);
  const address = fileAddress(path, { ...wanted, page });
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    rememberWanted(wanted);
    const link = document.createElement('a');
    link.href = address;
    link.download = '';
    link.click();
    onClose();
  };
  return (
    <Modal
      title={`Take out: ${label}`}
      className={`top-[5vh] max-h-[90vh] overflow-auto ${onPaper ? 'w-[1080px]' : 'w-[560px]'}`}
      onClose={onClose}
    >
      <div className={onPaper ? 'grid grid-cols-[460px_minmax(0,1fr)] gap-8' : ''}>
        <form onSubmit={submit} className="flex flex-col gap-3">
          <fieldset className="flex flex-col gap-1.5">
            <legend className="sr-only">As which file</legend>
            {LEAF_FORMATS.map((format) => (
              <label key={format} className="flex cursor-pointer items-baseline gap-2">
                <input
                  type="radio"
                  name="format"
                  checked={wanted.format === format}
                  onChange={() => setWanted({ ...wanted, format })}
                />
                <span>
                  <strong className="font-semibold">{FORMAT_WORD[format][0]}</strong>
                  <span className="block text-[12.5px] text-soft">{FORMAT_WORD[format][1]}</span>
                </span>
              </label>
            ))}
          </fieldset>
          <Templates wanted={wanted} onWanted={setWanted} />
          <HowFields wanted={wanted} onChange={setWanted} titled={label} />
          <footer className="mt-1 flex items-center gap-4">
            <button type="submit" className="button-main">
              Take it out
            </button>
            <ModalClose className="cursor-pointer text-soft hover:text-ink">Cancel</ModalClose>
          </footer>
          <OtherWays path={path} page={page} wanted={wanted} label={label} onDone={onClose} />
        </form>
        {onPaper && <PaperPreview url={preview} />}
      </div>
    </Modal>
  );
}

const SETTLE_MS = 500;
