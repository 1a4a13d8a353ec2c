'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useNewest } from '../query/hooks';
import { useKeys } from '../shell/keys';

/** Says that a newer load has come than the one on screen, and reads again in place, keeping everything as it is. */
export function NewerData({ load, fixed }: { load: number | undefined; fixed: boolean }) {
  const { data } = useNewest();
  const client = useQueryClient();
  const newer = !fixed && load !== undefined && data !== undefined && data.load > load;
  const refresh = (): void => {
    if (newer) void client.invalidateQueries();
  };
  useKeys({ r: refresh });
  if (!newer) return null;
  return (
    <p
      role="status"
      className="mx-[26px] mb-1 flex items-center gap-3 border border-warn bg-warnground px-3 py-1 text-[13px]"
    >
      <span>
        Load {data.load} has come since this was read{load > 0 ? ` as of load ${load}` : ''}.
      </span>
      <button type="button" onClick={refresh} className="cursor-pointer font-semibold underline underline-offset-4">
        Refresh in place
      </button>
      <span className="key">r</span>
    </p>
  );
}
