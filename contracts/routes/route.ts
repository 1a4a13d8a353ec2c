import { z } from 'zod';

/** A route: what it may be asked, and what it answers. */
export interface Route {
  summary: string;
  query?: z.ZodRawShape;
  body?: z.ZodType;
  multipart?: boolean;
  /** Beside a form with a file, a body that names a file that was sent before. */
  json?: z.ZodType;
  /** Of an answer that is no problem; 200 if absent. */
  status?: number;
  /** The JSON that it answers. */
  answer?: z.ZodType;
  /** What it gives that is no JSON: a file, or the way to a page. */
  gives?: 'file' | 'page';
}

/** A change that has nothing to tell but that it is done. */
export const nothing = z.null();
