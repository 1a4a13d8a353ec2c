import type { AskedTogether } from '@/contracts/askedTogether';
import type { Handler } from './answer';
import { GET as accounts } from './v1/accounts/route';
import { GET as attachments } from './v1/attachments/route';
import { GET as budgets } from './v1/budgets/route';
import { GET as columns } from './v1/columns/route';
import { GET as dimensions } from './v1/dimensions/route';
import { GET as entities } from './v1/entities/route';
import { GET as entry } from './v1/entries/[id]/route';
import { GET as expectations } from './v1/expectations/route';
import { GET as findings } from './v1/findings/route';
import { GET as lines } from './v1/lines/route';
import { GET as marks } from './v1/marks/route';
import { GET as newest } from './v1/newest/route';
import { GET as notes } from './v1/notes/route';
import { GET as pins } from './v1/pins/route';
import { GET as proposedEntries } from './v1/proposed-entries/route';
import { GET as questions } from './v1/questions/route';
import { GET as points } from './v1/review-points/route';
import { GET as scopes } from './v1/scopes/route';
import { GET as sentence } from './v1/sentence/route';
import { GET as sheets } from './v1/sheets/route';
import { GET as statement } from './v1/statements/[code]/route';
import { GET as statements } from './v1/statements/route';
import { GET as thread } from './v1/threads/[id]/route';
import { GET as threads } from './v1/threads/route';
import { GET as tickMarks } from './v1/tick-marks/route';
import { GET as ticks } from './v1/ticks/route';
import { GET as tickedShare } from './v1/ticks/share/route';
import { GET as totals } from './v1/totals/route';
import { GET as trialBalance } from './v1/trial-balance/route';

const HANDLERS: Record<AskedTogether, Handler> = {
  'GET /accounts': accounts,
  'GET /budgets': budgets,
  'GET /columns': columns,
  'GET /dimensions': dimensions,
  'GET /entities': entities,
  'GET /entries/{id}': entry,
  'GET /lines': lines,
  'GET /marks': marks,
  'GET /newest': newest,
  'GET /notes': notes,
  'GET /pins': pins,
  'GET /scopes': scopes,
  'GET /sentence': sentence,
  'GET /sheets': sheets,
  'GET /statements': statements,
  'GET /statements/{code}': statement,
  'GET /threads': threads,
  'GET /threads/{id}': thread,
  'GET /totals': totals,
  'GET /attachments': attachments,
  'GET /findings': findings,
  'GET /expectations': expectations,
  'GET /proposed-entries': proposedEntries,
  'GET /questions': questions,
  'GET /review-points': points,
  'GET /tick-marks': tickMarks,
  'GET /ticks': ticks,
  'GET /ticks/share': tickedShare,
  'GET /trial-balance': trialBalance,
};

/** The routes that screens ask beside each other, each as if it had been asked alone. */
export const handlerOf = (name: AskedTogether): Handler => HANDLERS[name];
