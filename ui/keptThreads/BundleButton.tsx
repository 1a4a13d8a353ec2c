'use client';

import { useRouter } from 'next/navigation';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';

/**
 * Has a thread, or all of a folder, made into a bundle: an offline page in which tracing works, signed, that anybody can
 * check.
 */
export function BundleButton({
  threads,
  name,
  className = 'link',
  children = 'Make a bundle',
}: {
  threads: number[];
  name: string;
  className?: string;
  children?: string;
}) {
  const router = useRouter();
  const [only, another] = threads;
  const make = useChange(
    () =>
      only !== undefined && another === undefined
        ? ask('POST /threads/{id}/bundle', { path: { id: only } })
        : ask('POST /threads/bundles', { body: { threads, name } }),
    ['/exports'],
  );
  return (
    <button
      type="button"
      className={className}
      disabled={make.isPending}
      title="An offline page with its lines and files, signed, that anybody can check without us"
      onClick={() =>
        void make.mutateAsync(undefined).then(
          () =>
            toast('The bundle is being made', {
              action: { label: 'Files made for you', onClick: () => router.push('/reports/files') },
            }),
          (error: Error) => toast(error.message),
        )
      }
    >
      {children}
    </button>
  );
}
