import { wrong } from '@/contracts/problem';

const NAME_MAX = 200;

export function checkedName({ language, name }: { language: string | null; name: string | null }): string | null {
  const text = name?.trim() || null;
  if (text === null && language === null) throw wrong('name', 'the name is missing');
  if (text !== null && text.length > NAME_MAX) throw wrong('name', `a name has at most ${NAME_MAX} characters`);
  return text;
}
