'use client';

import { useRouter } from 'next/navigation';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';

/** Has a thread made into a bundle: an offline page in which tracing works, signed, that anybody can check. */
export function BundleButton({ thread }: { thread: number }) {
  const router = useRouter();
  const make = useChange(() => ask('POST /threads/{id}/bundle', { path: { id: thread } }), ['/exports']);
  return (
    <button
      type="button"
      className="link"
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
      Make a bundle
    </button>
  );
}
