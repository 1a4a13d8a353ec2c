import { findLine } from '@/cases/sheets/findLine';
import { serve } from '../../../answer';

export const GET = serve('GET /lines/find', ({ ctx, viewer, query }) => findLine(ctx, viewer, query));
