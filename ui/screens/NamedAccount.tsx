'use client';

/** @param show by `code` or by `name` alone, or both */
export function NamedAccount({ code, name, show }: { code: string; name: string; show?: string | undefined }) {
  if (show === 'code' || show === 'name') return show === 'code' ? code : name;
  return (
    <>
      <span className="mr-3 inline-block min-w-9 text-faint">{code}</span>
      {name}
    </>
  );
}
