import type { Metadata } from 'next';
import { CalendarsPage } from '@/ui/accounts/CalendarsPage';

export const metadata: Metadata = { title: 'Calendars' };

export default function Page() {
  return <CalendarsPage />;
}
