'use client';

import { type FormEvent, useState } from 'react';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure } from '../parts/Place';
import { toast } from '../parts/toast';
import { useAttach } from './useAttach';

/** A file that is chosen from the disk, for what is focused. */
export function AttachDialog({
  about,
  address,
  thread,
  onClose,
}: {
  about: { subject: string; label: string };
  address: string;
  thread: number | null;
  onClose(): void;
}) {
  const attach = useAttach();
  const [file, setFile] = useState<File | null>(null);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    if (!file) return;
    await attach.mutateAsync({ file, ...about, address, thread }).then(
      () => {
        toast(`${file.name} is attached`);
        onClose();
      },
      () => {}, // it is said in the form
    );
  };
  return (
    <Modal title={`Attach a file to ${about.label}`} className="top-[18vh] w-[480px]" onClose={onClose}>
      <form onSubmit={submit} className="flex flex-col gap-3">
        <input
          type="file"
          aria-label="File"
          onChange={(event) => setFile(event.target.files?.[0] ?? null)}
          className="field h-auto w-full py-1"
        />
        <p className="text-[13px] text-soft">
          A PDF, a picture, a spreadsheet, a letter, plain text or a mail file, of 50 MB at the most. It may also be
          dropped on the row, or pasted there.
        </p>
        <Failure error={attach.error} />
        <div className="flex gap-2">
          <button type="submit" className="button-main" disabled={!file || attach.isPending}>
            {attach.isPending ? 'Sending …' : 'Attach'}
          </button>
          <ModalClose className="button">Cancel</ModalClose>
        </div>
      </form>
    </Modal>
  );
}
