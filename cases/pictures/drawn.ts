import type { ResolvedFigure } from '../asking/resolvedFigure';

/** What every picture says of the figure that it is of. */
export const drawnOf = ({ sentence, asOf, address }: ResolvedFigure) => ({ sentence, load: asOf, address });
