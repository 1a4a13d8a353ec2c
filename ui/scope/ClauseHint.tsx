/** What can be written, what it takes, or why it cannot be used. */
export function ClauseHint({ fault, taken, hint }: { fault: string | null; taken?: string; hint: string | undefined }) {
  return (
    <div id="clause-hint" className="mt-1 text-[12.5px]">
      {fault ? (
        <p className="text-warn" role="alert">
          {fault}
        </p>
      ) : (
        taken && (
          <p className="text-ink" aria-live="polite">
            {taken}
          </p>
        )
      )}
      {hint && <p className="text-soft">{hint}</p>}
    </div>
  );
}
