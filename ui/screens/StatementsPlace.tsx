'use client';

import { StatementScreen } from './StatementScreen';
import { ThreadScreen } from './ThreadScreen';

export const StatementsPlace = () => <ThreadScreen origin="statements" First={StatementScreen} />;
