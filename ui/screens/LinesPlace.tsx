'use client';

import { LedgerScreen } from './LedgerScreen';
import { ThreadScreen } from './ThreadScreen';

export const LinesPlace = () => <ThreadScreen origin="lines" First={LedgerScreen} />;
