'use client';

import { type FormEvent, useState } from 'react';
import type { Embed } from '@/contracts/answers/leaving';
import { PANEL_KINDS, type PanelKind } from '@/contracts/panels';
import { momentText } from '../amounts';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { PANEL_WORD } from './words';

/** Gives a report an address under which a page elsewhere shows it. */
export function EmbedDialog({ report, name, onClose }: { report: number; name: string; onClose(): void }) {
  const [kind, setKind] = useState<PanelKind>('table');
  const [days, setDays] = useState(90);
  const [made, setMade] = useState<Embed | null>(null);
  const make = useChange(() => ask('POST /embeds', { body: { report, kind, days } }), ['/embeds']);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    setMade(await make.mutateAsync(undefined).catch(() => null));
  };
  const frame = made
    ? `<iframe src="${made.address}" title="${name.replaceAll('"', '&quot;')}" width="600" height="400"></iframe>`
    : '';
  return (
    <Modal title={`“${name}” on other pages`} className="top-[12vh] w-[560px]" onClose={onClose}>
      {made ? (
        <div className="flex flex-col gap-3">
          <p>
            Until {momentText(made.expires)} a page that an owner named shows it with these words. Whoever reads that
            page sees what you may see.
          </p>
          <textarea
            readOnly
            rows={4}
            aria-label="Words for the page"
            className="field h-auto w-full py-1 font-mono text-[12.5px]"
            value={frame}
            onFocus={(event) => event.target.select()}
          />
          <div className="flex gap-2">
            <button
              type="button"
              className="button-main"
              onClick={() =>
                void navigator.clipboard.writeText(frame).then(() => toast('The words are on the clipboard'))
              }
            >
              Copy them
            </button>
            <ModalClose className="button">Close</ModalClose>
          </div>
        </div>
      ) : (
        <form onSubmit={submit} className="flex flex-col gap-3">
          <div className="flex items-end gap-3">
            <Labelled label="Shown as">
              <Select value={kind} className="w-[150px]" onChange={(event) => setKind(event.target.value as PanelKind)}>
                {PANEL_KINDS.map((of) => (
                  <option key={of} value={of}>
                    {PANEL_WORD[of]}
                  </option>
                ))}
              </Select>
            </Labelled>
            <Labelled label="For so many days">
              <input
                type="number"
                min={1}
                max={366}
                required
                className="field w-[90px]"
                value={days}
                onChange={(event) => setDays(Number(event.target.value))}
              />
            </Labelled>
          </div>
          <Failure error={make.error} />
          <div className="flex gap-2">
            <button type="submit" className="button-main" disabled={make.isPending}>
              Give it an address
            </button>
            <ModalClose className="button">Cancel</ModalClose>
          </div>
        </form>
      )}
    </Modal>
  );
}
