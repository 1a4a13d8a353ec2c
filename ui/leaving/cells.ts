import type { PanelShown } from '@/contracts/answers/leaving';
import { amountText, countText, percentText } from '../amounts';

type Column = Pick<PanelShown['columns'][number], 'is'>;

/** Whether what stands in a column of a sheet is a number, which stands to the right. */
export const isFigure = ({ is }: Column): boolean => is !== 'text' && is !== 'date';

/** What stands in a cell of a sheet that left, as it is read. */
export const shown = (text: string | null | undefined, { is }: Column): string => {
  if (text === null || text === undefined) return '';
  if (is === 'amount') return amountText(text);
  if (is === 'count') return countText(Number(text));
  return is === 'share' ? `${percentText(text)} %` : text;
};
