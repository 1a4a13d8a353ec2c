import { askBundles } from '@/cases/leaving/askBundle';
import { serve } from '../../../answer';

export const POST = serve('POST /threads/bundles', ({ ctx, viewer, body }) => askBundles(ctx, viewer, body));
