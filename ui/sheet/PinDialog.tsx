'use client';

import type { Pin } from '@/contracts/answers/evidence';
import { dateText } from '@/core/sentence';
import { amountText, countText, momentText } from '../amounts';
import { Modal, ModalClose } from '../parts/Modal';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { TieMark } from './Strips';

const CHANGE_WORD = { added: '+ added', changed: '~ changed', removed: '− removed' } as const;

/** A pin in full: what was frozen, whether it still holds, and if not which lines moved it. */
export function PinDialog({ pin, onClose }: { pin: Pin; onClose(): void }) {
  const remove = useChange(() => ask('DELETE /pins/{id}', { path: { id: pin.id } }), ['/pins']);
  return (
    <Modal
      title={
        <>
          Pinned {amountText(pin.value)} <span className="text-soft">{pin.label}</span>
        </>
      }
      tight
      className="top-[12vh] max-h-[76vh] w-[760px] overflow-auto"
      onClose={onClose}
    >
      <p className="mt-1 text-soft">{pin.sentence}</p>
      <dl className="mt-4 grid grid-cols-[120px_1fr] gap-y-1">
        <dt className="text-soft">Pinned by</dt>
        <dd>
          {pin.by}, {momentText(pin.at)}, as of load {pin.load}
        </dd>
        <dt className="text-soft">Frozen</dt>
        <dd>
          {countText(pin.lines)} {pin.lines === 1 ? 'line' : 'lines'}, digest{' '}
          <code className="text-[12px] break-all">{pin.digest}</code>
        </dd>
        <dt className="text-soft">Today</dt>
        <dd>
          {pin.state === 'fresh' ? (
            '✓ the same question gives the same lines'
          ) : (
            <span className="text-warn">
              ≠ drifted: now {pin.now === null ? 'no longer there' : amountText(pin.now)}
              {pin.change !== null && `, a change of ${amountText(pin.change)}`}
            </span>
          )}
        </dd>
      </dl>
      {pin.drift.length > 0 && (
        <table className="mt-4 w-full">
          <thead>
            <tr className="border-b-[1.5px] border-ink text-left text-[12.5px] text-soft">
              <th className="py-1 font-normal">Line</th>
              <th className="font-normal">Entry</th>
              <th className="font-normal">Date</th>
              <th className="font-normal">Description</th>
              <th className="text-right font-normal">Effect</th>
            </tr>
          </thead>
          <tbody>
            {pin.drift.map((d) => (
              <tr key={`${d.entity}/${d.entry}/${d.line}`} className="border-b border-hair align-top">
                <td className="py-1 pr-3 whitespace-nowrap">{CHANGE_WORD[d.change]}</td>
                <td className="py-1 pr-3 whitespace-nowrap">
                  {d.entry} / {d.line}
                </td>
                <td className="py-1 pr-3 whitespace-nowrap">{dateText(d.date)}</td>
                <td className="py-1 pr-3">
                  {d.description}
                  {d.fields.length > 0 && <span className="text-soft"> ({d.fields.join(', ')})</span>}
                </td>
                <td className="py-1 text-right whitespace-nowrap">{amountText(d.effect)}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr className="border-b-[3px] border-double border-ink font-semibold">
              <td colSpan={4} className="py-1">
                Change of the figure{' '}
                <TieMark tie={{ ok: pin.driftTies, offBy: pin.change ?? '' }} what="the lines add up to it" />
              </td>
              <td className="text-right">{amountText(pin.change ?? '')}</td>
            </tr>
          </tfoot>
        </table>
      )}
      {pin.driftMore && <p className="mt-2 text-soft">Only the first {pin.drift.length} lines are shown.</p>}
      <div className="mt-5 flex gap-2">
        <ModalClose className="button-main">Close</ModalClose>
        {pin.mine && (
          <button
            type="button"
            className="button"
            onClick={async () => {
              await remove.mutateAsync(undefined);
              onClose();
            }}
          >
            Remove the pin
          </button>
        )}
      </div>
    </Modal>
  );
}
