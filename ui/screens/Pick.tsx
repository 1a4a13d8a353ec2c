'use client';

/** One of several words beside its label, among the tools of a sheet. */
export function Pick({
  label,
  value,
  choices,
  onChange,
}: {
  label: string;
  value: string;
  choices: [string, string][];
  onChange(value: string): void;
}) {
  return (
    <label className="flex items-baseline gap-2 whitespace-nowrap">
      <span className="text-faint">{label}</span>
      <select
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="max-w-[124px] cursor-pointer border-b border-rule bg-transparent text-ink"
      >
        {choices.map(([key, name]) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
