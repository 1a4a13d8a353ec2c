'use client';

import { useQuery } from '@tanstack/react-query';
import type { EvidenceFile } from '@/contracts/answers/evidence';
import { momentText } from '../amounts';
import { PaperShown } from '../documents/paper/PaperShown';
import { Beside } from '../panels/Beside';
import { Modal } from '../parts/Modal';
import { ContentsShown, hasContents } from './ContentsShown';
import { sizeText } from './sizeText';

const NOTHING_SOUGHT = { amounts: [], numbers: [] };
/** More of a text than this is not shown in place. */
const SHOWN_MAX = 200_000;

/** A file that was attached, beside the sheet. Nothing in it is run, and nothing is fetched for it. */
export function FileBeside({ file, onClose }: { file: EvidenceFile; onClose(): void }) {
  return (
    <Beside name="File beside" title={file.name} width="w-[44%] max-w-[720px] min-w-[380px]" onClose={onClose}>
      <FileShown file={file} />
    </Beside>
  );
}

/** The same over a page that has no room beside it. */
export function FileInFront({ file, onClose }: { file: EvidenceFile; onClose(): void }) {
  return (
    <Modal title={file.name} tight className="top-[6vh] flex h-[86vh] w-[860px] flex-col" onClose={onClose}>
      <FileShown file={file} />
    </Modal>
  );
}

function FileShown({ file }: { file: EvidenceFile }) {
  const isText = file.type.startsWith('text/') || file.type === 'application/json';
  return (
    <>
      <p className="mb-1 text-[12.5px] text-soft">
        attached by {file.by}, {momentText(file.at)} · {sizeText(file.bytes)} · {file.type}
      </p>
      {isText ? (
        <TextShown file={file} />
      ) : hasContents(file.type) ? (
        <ContentsShown file={file} />
      ) : (
        <PaperShown key={file.digest} file={file} sought={NOTHING_SOUGHT} height="min-h-0 flex-1" />
      )}
      <p className="mt-1 truncate text-[12px] text-faint" title={file.digest}>
        SHA-256 {file.digest}
      </p>
    </>
  );
}

function TextShown({ file }: { file: EvidenceFile }) {
  const { data, error } = useQuery({
    queryKey: ['/attachments', file.digest, 'text'],
    queryFn: async ({ signal }) => {
      const answer = await fetch(`/api/v1/attachments/${file.digest}?show=yes`, { signal });
      if (!answer.ok) throw new Error('The file could not be read');
      return (await answer.text()).slice(0, SHOWN_MAX);
    },
  });
  return (
    <pre
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what is larger than its frame is moved about by keys
      tabIndex={0}
      className="min-h-0 flex-1 overflow-auto border border-rule bg-sheet p-3 text-[13px] whitespace-pre-wrap"
    >
      {error ? error.message : (data ?? 'Reading …')}
    </pre>
  );
}
