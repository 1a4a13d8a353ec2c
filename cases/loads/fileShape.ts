import { sha256Text } from '@/core/digest';

/** Digest of the column names: files of the same shape have the same one. */
export const shapeOf = (header: readonly string[]): string => sha256Text(header.join('\n'));
