/** The letters of a column, as spreadsheets count them: A, B, …, Z, AA, … */
export function letters(column: number): string {
  let text = '';
  for (let left = column; left > 0; left = Math.floor((left - 1) / 26))
    text = String.fromCharCode(65 + ((left - 1) % 26)) + text;
  return text;
}
