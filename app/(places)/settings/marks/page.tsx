import type { Metadata } from 'next';
import { MarkRulesPage } from '@/ui/settings/MarkRulesPage';

export const metadata: Metadata = { title: 'What stands out' };

export default function Marks() {
  return <MarkRulesPage />;
}
