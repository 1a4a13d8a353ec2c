'use client';

import { useRouter } from 'next/navigation';
import { useMe } from '../shell/me';
import { carryDraft } from './carriedDraft';

/** The way from what was found to an entry that puts it right, which goes back to it. */
export function ProposeLink({
  subject,
  links,
  label,
  entity,
  kind,
  back,
  thread,
}: {
  subject: string;
  links: string[];
  label: string;
  entity: string;
  kind: 'factual' | 'projected';
  back: string;
  thread: number | null;
}) {
  const router = useRouter();
  const me = useMe();
  if (me.role === 'reader') return null;
  return (
    <button
      type="button"
      className="link"
      onClick={() => {
        carryDraft({
          draft: { entity, currency: '', date: '', period: '', lines: [], faults: [] },
          ...{ subject, links, label, title: label.slice(0, 200), kind, thread, back },
        });
        router.push('/proposals/new');
      }}
    >
      Propose an entry
    </button>
  );
}
