import { wrong } from '@/contracts/problem';
import { type Minor, parseAmount } from '@/core/money';

/** An amount as somebody types it. @throws ProblemError naming the field */
export function typedAmount(text: string, digits: number, path: string): Minor {
  try {
    return parseAmount(text, digits);
  } catch (error) {
    throw wrong(path, (error as Error).message);
  }
}
