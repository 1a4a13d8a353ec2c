'use client';

import { useRouter } from 'next/navigation';
import { type FormEvent, useRef, useState } from 'react';
import type { RichText } from '@/contracts/richText';
import type { Measure } from '@/contracts/traced';
import { FINDING_KINDS, FINDING_WORDS, type FindingWord } from '@/contracts/work';
import { countText } from '../amounts';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { Prose } from './Prose';
import { useColleagues } from './useEvidence';

/** What was found, on one row or several; its amount is the figure of the first, if it is to have one. */
export function FindingDialog({
  about,
  measure,
  address,
  thread,
  onClose,
  onWritten,
}: {
  about: readonly { subject: string; label: string }[];
  measure: Measure;
  address: string;
  thread: number | null;
  onClose(): void;
  /** It is written down, before it closes. */
  onWritten?(): void;
}) {
  const router = useRouter();
  const colleagues = useColleagues();
  const [words, setWords] = useState<Partial<Record<FindingWord, RichText | string>>>({});
  const sent = useRef<HTMLFormElement>(null);
  const [withAmount, setWithAmount] = useState(about.length === 1);
  const write = useChange(
    (form: FormData) => {
      const text = (name: string): string => String(form.get(name) ?? '').trim();
      const [first] = about;
      return ask('POST /findings', {
        body: {
          title: text('title'),
          kind: text('kind') as (typeof FINDING_KINDS)[number],
          subjects: about.map((a) => a.subject).slice(0, 50),
          amount: withAmount && first ? { subject: first.subject, measure } : null,
          ...words,
          owner: Number(text('owner')) || null,
          due: text('due') || null,
          ...{ address, thread },
        },
      });
    },
    ['/findings', '/threads', '/desk'],
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const found = await write.mutateAsync(new FormData(event.currentTarget)).catch(() => null);
    if (!found) return;
    onWritten?.();
    onClose();
    toast('Finding written', { action: { label: 'Open', onClick: () => router.push(`/findings/${found.id}`) } });
  };
  const on = about.length === 1 ? (about[0]?.label ?? '') : `${countText(about.length)} rows`;
  return (
    <Modal title={`Finding on ${on}`} className="top-[8vh] max-h-[84vh] w-[640px] overflow-auto" onClose={onClose}>
      <form ref={sent} onSubmit={submit} className="flex flex-col gap-3">
        <Labelled label="What was found" wide>
          <input name="title" required maxLength={300} className="field w-full" />
        </Labelled>
        <div className="flex flex-wrap gap-3">
          <Labelled label="Kind">
            <Select name="kind" defaultValue="error" className="w-[160px]">
              {FINDING_KINDS.map((kind) => (
                <option key={kind} value={kind}>
                  {kind}
                </option>
              ))}
            </Select>
          </Labelled>
          <Labelled label="Owner">
            <Select name="owner" defaultValue="" className="w-[200px]">
              <option value="">nobody yet</option>
              {(colleagues.data?.rows ?? []).map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </Select>
          </Labelled>
          <Labelled label="Due">
            <input type="date" name="due" className="field" />
          </Labelled>
        </div>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={withAmount} onChange={(event) => setWithAmount(event.target.checked)} />
          Its amount is the figure of {about.length === 1 ? 'this row' : `“${about[0]?.label}”`}
        </label>
        {FINDING_WORDS.map((name) => (
          <Prose
            key={name}
            label={name[0]?.toUpperCase() + name.slice(1)}
            onChange={(said) => setWords((now) => ({ ...now, [name]: said }))}
            onDone={() => sent.current?.requestSubmit()}
            onCancel={onClose}
          />
        ))}
        <Failure error={write.error} />
        <div className="flex gap-2">
          <button type="submit" className="button-main" disabled={write.isPending}>
            Write finding
          </button>
          <ModalClose className="button">Cancel</ModalClose>
        </div>
      </form>
    </Modal>
  );
}
