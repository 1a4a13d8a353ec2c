'use client';

import { HitsScreen } from './HitsScreen';
import { ThreadScreen } from './ThreadScreen';

export const HitsPlace = () => <ThreadScreen origin="hits" First={HitsScreen} />;
