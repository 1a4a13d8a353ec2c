import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** What must not be in the code, and why: each is counted by `./just-thread house`, and one of any fails the tests. */
export interface Rule {
  name: string;
  why: string;
  /** The folders that it is about. */
  rooms: readonly string[];
  /** Files in which it is what it should be. */
  except?: readonly string[];
  /** What of a file's text breaks it; a match is one place. */
  breaks: readonly RegExp[];
}

const OUTSIDE_STORE = ['app', 'ui', 'contracts', 'cases', 'core', 'exchange', 'standins', 'demo'];

export const RULES: readonly Rule[] = [
  {
    name: 'SQL outside store',
    why: 'a question to the database stands in the store, where a figure’s clauses and its load are never forgotten',
    rooms: OUTSIDE_STORE,
    breaks: [
      /import\s*\{[^}]*\browsOf\b[^}]*\}\s*from\s*'@\/store\/db'/g,
      /\.raw\s*\(/g,
      /\b(?:trx|db|ctx\.(?:read|write|work|patient))\s*(?:<[^>]*>)?\(\s*['"`]\w+['"`]\s*\)/g,
      /[`'"](?:\s|\\n)*(?:select\s.+\sfrom\s|insert\s+into\s|delete\s+from\s|update\s+\w+\s+set\s)/gi,
    ],
  },
  {
    name: 'answers typed by hand',
    why: 'what a route answers is said once, in contracts/routes; the screens and the use cases have their types from it',
    rooms: ['app', 'ui', 'cases'],
    breaks: [
      /\b(?:ask|useAnswer)\s*<(?!Name)/g,
      /\bobject\[\]/g,
      /Promise<unknown>\s*=>?\s*use/g,
      /:\s*Promise<object>/g,
    ],
  },
  {
    name: 'printed amounts read back',
    why: 'use cases compute in minor units and print at the border; only what people and files wrote is read',
    rooms: ['cases'],
    // Rules and cells as people type them.
    except: [
      'cases/sheets/marks.ts',
      'cases/statements/budgetSheet.ts',
      'cases/loads/',
      'cases/desk/workDone.ts',
      'cases/asking/typedAmount.ts',
    ],
    breaks: [/\bparseAmount\s*\(/g, /Number\s*\(\s*\w+(?:\.\w+)*\.(?:opening|debit|credit|movement|closing)\s*\)/g],
  },
  {
    name: 'ties of a number with itself',
    why: 'a mark that says that parts equal the whole compares two answers to two questions, or is not shown',
    rooms: ['cases'],
    breaks: [/\btieOf\s*\(\s*(\w+(?:\.\w+)*)\s*,\s*\1\s*,/g, /\btie:\s*\{\s*ok:\s*true\b/g],
  },
  {
    name: 'figures resolved past the grant',
    why: 'a resolved figure comes from resolveFigure or is narrowed from one; whole books are asked of in the two places that hold each line against the grant',
    rooms: ['app', 'cases'],
    except: ['cases/asking/', 'cases/sheets/readEntry.ts'],
    breaks: [/ResolvedFigure\.(?:seenBy|ofWholeBooks)\s*\(/g, /\bquestionOf\s*\(/g],
  },
  {
    name: 'figures asked without being weighed',
    why: 'whoever waits for an answer is told beforehand that it is heavy; only lines found by their key, and work that nobody waits for, are asked without',
    rooms: ['app', 'cases'],
    except: [
      'cases/asking/',
      'cases/balances/linesOfFigure.ts',
      'cases/sheets/readEntry.ts',
      'cases/evidence/drift.ts',
      'cases/loads/compareLoads.ts',
      'cases/tests/population.ts',
    ],
    breaks: [/\bunweighed\b/g],
  },
];

export interface Broken {
  rule: Rule;
  file: string;
  line: number;
  text: string;
}

/** What of a text breaks a rule. @param file its path from the top of the tree */
export function brokenIn(rule: Rule, file: string, text: string): Broken[] {
  const inRoom = rule.rooms.some((room) => file.startsWith(`${room}/`));
  if (!inRoom || /\.test\.tsx?$/.test(file) || rule.except?.some((start) => file.startsWith(start))) return [];
  return rule.breaks.flatMap((pattern) =>
    [...text.matchAll(pattern)].map((found) => {
      const line = text.slice(0, found.index).split('\n').length;
      return { rule, file, line, text: (found[0] ?? '').trim().split('\n')[0] as string };
    }),
  );
}

const sources = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((e) => {
    const path = join(folder, e.name);
    return e.isDirectory() ? sources(path) : /\.tsx?$/.test(e.name) ? [path] : [];
  });

/** Every place of the tree that breaks a rule. */
export function brokenRules(): Broken[] {
  const rooms = [...new Set(RULES.flatMap((r) => r.rooms))];
  return rooms
    .flatMap(sources)
    .flatMap((file) => RULES.flatMap((rule) => brokenIn(rule, file, readFileSync(file, 'utf8'))));
}

/** Says of each rule how often it is broken, and where. @returns whether none is */
export function sayRules(say: (text: string) => void): boolean {
  const broken = brokenRules();
  for (const rule of RULES) {
    const mine = broken.filter((b) => b.rule === rule);
    say(`${String(mine.length).padStart(4)}  ${rule.name}`);
    for (const { file, line, text } of mine) say(`        ${file}:${line}  ${text}`);
    if (mine.length > 0) say(`        ${rule.why}`);
  }
  return broken.length === 0;
}
