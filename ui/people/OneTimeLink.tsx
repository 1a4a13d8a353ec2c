'use client';

import { toast } from '../parts/toast';

/** A link that is shown this once, to be handed to the person whose it is. */
export function OneTimeLink({ name, link }: { name: string; link: string }) {
  const address = `${window.location.origin}${link}`;
  return (
    <p className="w-full text-[13px]" role="status">
      {name} chooses a password with this link, once, within 24 hours. Hand it over yourself; it is not shown again.
      <span className="mt-1 flex items-center gap-2">
        <input
          readOnly
          value={address}
          aria-label={`Link for ${name}`}
          className="field w-full max-w-[640px] text-[13px]"
          onFocus={(event) => event.target.select()}
        />
        <button
          type="button"
          className="button"
          onClick={() => void navigator.clipboard.writeText(address).then(() => toast('Copied'))}
        >
          Copy
        </button>
      </span>
    </p>
  );
}
