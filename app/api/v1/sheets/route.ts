import { readSheet } from '@/cases/sheets/readSheet';
import { sheetShape } from '@/contracts/questions';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readSheet(asking.ctx, asking.viewer, query(sheetShape, asking)));
