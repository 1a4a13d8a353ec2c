import { wrong } from './problem';

/**
 * What evidence or a step of a thread is about. A figure is named by its address; a line, an entry and a document by the
 * numbers that they have in their entity, so that they are found again after a later load. What was written is a subject
 * too: a thread with its conclusion, a note, a finding, an entry that is proposed.
 */
export type Subject =
  | { is: 'figure'; address: string }
  | EnteredSubject
  | { is: 'document'; entity: string; number: string }
  | WrittenSubject;

/** An entry, or a line of one. */
export type EnteredSubject =
  | { is: 'line'; entity: string; entry: string; line: number }
  | { is: 'entry'; entity: string; entry: string };

/** Something that people wrote here. */
export interface WrittenSubject {
  is: 'thread' | 'note' | 'finding' | 'proposed';
  id: number;
}

export const isWritten = (subject: Subject): subject is WrittenSubject =>
  subject.is === 'thread' || subject.is === 'note' || subject.is === 'finding' || subject.is === 'proposed';

/** A subject as it is written everywhere. @throws ProblemError if it is none */
export function readSubject(text: string): Subject {
  if (text.startsWith('figure:')) return { is: 'figure', address: text.slice('figure:'.length) };
  const line = /^line:([^/]+)\/(.+)\/(\d+)$/.exec(text);
  if (line) return { is: 'line', entity: line[1] as string, entry: line[2] as string, line: Number(line[3]) };
  const entry = /^entry:([^/]+)\/(.+)$/.exec(text);
  if (entry) return { is: 'entry', entity: entry[1] as string, entry: entry[2] as string };
  const document = /^document:([^/]+)\/(.+)$/.exec(text);
  if (document) return { is: 'document', entity: document[1] as string, number: document[2] as string };
  const written = /^(thread|note|finding|proposed):(\d{1,9})$/.exec(text);
  if (written) return { is: written[1] as WrittenSubject['is'], id: Number(written[2]) };
  throw wrong(
    'subject',
    `“${text}” is no subject; write figure:<address>, line:<entity>/<entry>/<line>, entry:<entity>/<entry>, document:<entity>/<number>, thread:<id>, note:<id>, finding:<id> or proposed:<id>`,
  );
}

export function subjectText(subject: Subject): string {
  switch (subject.is) {
    case 'figure':
      return `figure:${subject.address}`;
    case 'line':
      return `line:${subject.entity}/${subject.entry}/${subject.line}`;
    case 'entry':
      return `entry:${subject.entity}/${subject.entry}`;
    case 'document':
      return `document:${subject.entity}/${subject.number}`;
    default:
      return `${subject.is}:${subject.id}`;
  }
}

/** The figure of these parameters as a subject; not of a load, since it is asked again of newer ones. */
export function figureSubject(params: URLSearchParams): string {
  const address = new URLSearchParams();
  for (const [name, value] of params) if (name !== 'load') address.append(name, value);
  return subjectText({ is: 'figure', address: address.toString() });
}

export const lineSubject = ({ entity, entry, line }: { entity: string; entry: string; line: number }): string =>
  subjectText({ is: 'line', entity, entry, line });

/** An entry as a screen knows it: by its id, where its number is not at hand. */
export const entryOnScreen = (id: string): string => `entry:${id}`;
export const entryIdOf = (subject: string): number | null => {
  const [, id] = /^entry:e(\d+)$/.exec(subject) ?? [];
  return id === undefined ? null : Number(id);
};

export const writtenSubject = (is: WrittenSubject['is'], id: number): string => subjectText({ is, id });

/** Subjects of the same figure have the same key, in whatever order their parameters were put. */
export function subjectKey(text: string): string {
  if (!text.startsWith('figure:')) return text;
  const params = [...new URLSearchParams(text.slice('figure:'.length))].filter(([, value]) => value !== '');
  const address = new URLSearchParams(params.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)));
  return subjectText({ is: 'figure', address: address.toString() });
}
