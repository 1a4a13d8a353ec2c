import type { Metadata } from 'next';
import { AuditFilesPage } from '@/ui/leaving/AuditFilesPage';

export const metadata: Metadata = { title: 'Audit files' };

export default function AuditFiles() {
  return <AuditFilesPage />;
}
