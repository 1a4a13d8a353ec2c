import { type Screen, screenPath } from './address';

/** Parts of a scope that a link can leave to its reader. */
export const ASKED = ['entity', 'window', 'member'] as const;
export type Asked = (typeof ASKED)[number];
export const ASKED_WORD: Record<Asked, string> = { entity: 'company', window: 'window', member: 'unit' };

/** What the link to a screen asks its reader for; what it does not know is not asked. */
export const askedOf = ({ options }: Pick<Screen, 'options'>): Asked[] =>
  (options.ask ?? '').split(',').flatMap((part) => ASKED.find((a) => a === part) ?? []);

export function withoutAsking(screen: Screen): Screen {
  const { ask: _asked, ...options } = screen.options;
  return { ...screen, options };
}

/** The address of a screen that asks whoever opens it for some parts first. */
export const askingPath = (screen: Screen, parts: readonly Asked[]): string =>
  screenPath({ ...screen, options: { ...screen.options, ask: parts.join(',') } });
