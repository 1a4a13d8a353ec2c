import type { Metadata } from 'next';
import { SchedulesPage } from '@/ui/leaving/SchedulesPage';

export const metadata: Metadata = { title: 'Made by themselves' };

export default function Schedules() {
  return <SchedulesPage />;
}
