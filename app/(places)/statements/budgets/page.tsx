import type { Metadata } from 'next';
import { BudgetsPage } from '@/ui/budgets/BudgetsPage';

export const metadata: Metadata = { title: 'Budgets' };

export default function Page() {
  return <BudgetsPage />;
}
