import { openDocuments } from '@/cases/documents/openDocuments';
import { openDocumentsShape } from '@/contracts/questions';
import { answer, query } from '../../answer';

export const GET = answer((asking) => openDocuments(asking.ctx, asking.viewer, query(openDocumentsShape, asking)));
