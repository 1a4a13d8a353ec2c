import { setMaxListeners } from 'node:events';
import { dehydrate, HydrationBoundary, QueryClient } from '@tanstack/react-query';
import { redirect } from 'next/navigation';
import type { ReactNode } from 'react';
import { answering, whoAsks } from '@/cases/asking/context';
import type { Viewer } from '@/cases/asking/viewer';
import type { AnswerOf } from '@/contracts/routes';
import { type Origin, readScreen, screenPath } from '@/ui/address/address';
import { SendToSignIn } from '@/ui/people/SendToSignIn';
import { FIRST_OF_ALL, type FirstQuestion, firstQuestions, opened } from '@/ui/screens/firstQuestions';
import { handlerOf } from './api/handlers';
import { signedIn } from './signedIn';

/** What takes longer is left to the page to ask: it is drawn meanwhile. */
const PATIENCE_MS = 700;

export interface Asked {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/**
 * A place with its first sheet: what that asks is answered here, so that its figures are drawn on the server and stand
 * there before any script has come.
 */
export async function Place({ origin, searchParams, children }: Asked & { origin: Origin; children: ReactNode }) {
  const viewer = await signedIn();
  // Whoever goes from place to place may have been signed out meanwhile; the frame around it stands there already.
  if (!viewer) return <SendToSignIn />;
  const params = paramsOf(await searchParams);
  const screen = readScreen(origin, params);
  const client = new QueryClient();
  const patience = patient();
  const learn = async (questions: readonly FirstQuestion[]): Promise<void> => {
    const answers = await Promise.all(questions.map((question) => answered(viewer, question, patience)));
    for (const [i, { key }] of questions.entries()) if (answers[i] !== undefined) client.setQueryData(key, answers[i]);
  };
  await learn(screen.scope.has('entity') ? [...FIRST_OF_ALL, ...firstQuestions(screen)] : FIRST_OF_ALL);
  const entities = client.getQueryData<AnswerOf<'GET /entities'>>(['/entities']);
  const kept = client.getQueryData<AnswerOf<'GET /scopes'>>(['/scopes']);
  const opens = kept?.rows.find((row) => row.opens && row.place === origin);
  const to =
    kept && opened(screen, entities?.entities[0]?.code, opens && readScreen(origin, new URLSearchParams(opens.query)));
  if (to) redirect(screenPath(to));
  return <HydrationBoundary state={dehydrate(client)}>{children}</HydrationBoundary>;
}

/** Until when answers are waited for; what has none by then is asked no further. */
function patient(): AbortSignal {
  const late = AbortSignal.timeout(PATIENCE_MS);
  const asking = whoAsks();
  const patience = asking ? AbortSignal.any([asking.signal, late]) : late;
  // One question of a page is many of the store's, and each listens.
  setMaxListeners(0, patience);
  return patience;
}

/** What a route answers; undefined where it has not in time, or has a problem, which the page finds when it asks itself. */
async function answered(viewer: Viewer, { name, path, query }: FirstQuestion, signal: AbortSignal): Promise<unknown> {
  const url = new URL(`http://localhost/api/v1${name.slice('GET '.length)}?${query}`);
  const ask = () => handlerOf(name)(new Request(url), { params: Promise.resolve(path), viewer });
  const asking = whoAsks();
  const asked = (asking ? answering({ ...asking, signal }, ask) : ask()).then(
    (response): Promise<unknown> | undefined => (response.ok ? response.json() : undefined),
    () => undefined,
  );
  const late = new Promise<undefined>((resolve) => {
    if (signal.aborted) resolve(undefined);
    else signal.addEventListener('abort', () => resolve(undefined), { once: true });
  });
  return Promise.race([asked, late]);
}

function paramsOf(asked: Record<string, string | string[] | undefined>): URLSearchParams {
  const params = new URLSearchParams();
  for (const [name, values] of Object.entries(asked))
    for (const value of [values ?? []].flat()) params.append(name, value);
  return params;
}
