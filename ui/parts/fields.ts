/** What was typed into a field of a form. */
export const textIn = (form: FormData, name: string): string => String(form.get(name) ?? '').trim();
