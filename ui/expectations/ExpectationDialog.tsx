'use client';

import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import type { Measure } from '@/contracts/traced';
import { plainAmount } from '@/core/writtenAmounts';
import { amountText, decimalMark } from '../amounts';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { toast } from '../parts/toast';
import { useMaterial } from '../proposals/useMaterial';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { RuleFields, ruleOf, typedOf } from './RuleFields';
import { TOUCHES } from './words';

/** What a figure should be, with the reason and how far off it may be, said before it is explained. */
export function ExpectationDialog({
  about,
  measure,
  address,
  thread,
  onClose,
}: {
  about: { subject: string; label: string };
  measure: Measure;
  address: string;
  thread: number | null;
  onClose(): void;
}) {
  const router = useRouter();
  const [typed, setTyped] = useState(typedOf());
  const material = useMaterial(about.subject);
  const state = useChange(
    (form: FormData) =>
      ask('POST /expectations', {
        body: {
          ...{ subject: about.subject, label: about.label, measure, address, thread, rule: ruleOf(typed) },
          reason: String(form.get('reason') ?? ''),
          least: plainAmount(String(form.get('least') ?? ''), decimalMark()),
        },
      }),
    TOUCHES,
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const made = await state.mutateAsync(new FormData(event.currentTarget)).catch(() => null);
    if (!made) return;
    onClose();
    toast(`${about.label}: ${made.state}`, {
      action: { label: 'Open', onClick: () => router.push(`/threads/expectations/${made.id}`) },
    });
  };
  return (
    <Modal
      title={`What ${about.label} should ${measure === 'movement' ? 'move by' : measure === 'closing' ? 'close at' : 'be'}`}
      className="top-[10vh] w-[640px]"
      onClose={onClose}
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        <RuleFields typed={typed} onTyped={setTyped} />
        <Labelled label="because" wide>
          <textarea name="reason" required rows={3} maxLength={2_000} className="field h-auto w-full py-1" />
        </Labelled>
        <Labelled label="A difference of so much needs explaining">
          <input
            key={material?.performance}
            name="least"
            required
            inputMode="decimal"
            defaultValue={material ? amountText(material.performance) : ''}
            className="field w-[200px] text-right"
          />
        </Labelled>
        <Failure error={state.error} />
        <div className="flex gap-2">
          <button type="submit" className="button-main" disabled={state.isPending}>
            Hold it against that
          </button>
          <ModalClose className="button">Cancel</ModalClose>
        </div>
      </form>
    </Modal>
  );
}
