import type { Metadata } from 'next';
import { DeskPage } from '@/ui/desk/DeskPage';

export const metadata: Metadata = { title: 'Desk' };

export default function Desk() {
  return <DeskPage />;
}
