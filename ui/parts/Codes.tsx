/** Codes with their names, for a field that completes them. */
export function Codes({ id, of }: { id: string; of: readonly { code: string; name: string }[] }) {
  return (
    <datalist id={id}>
      {of.map(({ code, name }) => (
        <option key={code} value={code}>
          {code} {name}
        </option>
      ))}
    </datalist>
  );
}
