'use client';

import { ThreadScreen } from './ThreadScreen';
import { TrialBalanceScreen } from './TrialBalanceScreen';

export const TrialBalancePlace = () => <ThreadScreen origin="trial-balance" First={TrialBalanceScreen} />;
