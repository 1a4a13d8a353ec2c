import { newest } from '@/cases/loads/loads';
import { answer } from '../../answer';

/** The number of the newest load, asked often by open screens. */
export const GET = answer(({ ctx }) => newest(ctx));
