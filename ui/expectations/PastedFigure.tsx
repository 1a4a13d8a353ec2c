'use client';

import { useState } from 'react';
import { amountText } from '../amounts';
import { CARRIED, type Carried, readCarried } from '../evidence/quoting';
import { Labelled } from '../parts/Place';

/** A figure that is copied on a sheet and pasted here, with its whole question. */
export function PastedFigure({
  label,
  held,
  onFigure,
  onText,
}: {
  label: string;
  held: Pick<Carried, 'label' | 'value'> | null;
  onFigure(figure: Carried): void;
  /** An amount is taken too, as it is typed. */
  onText?(text: string): void;
}) {
  const [said, setSaid] = useState<string | null>(null);
  return (
    <Labelled label={label} wide>
      <input
        className="field w-full"
        placeholder={
          onText ? 'paste a figure, or type an amount' : 'copy the figure on its sheet with Ctrl C, and paste it here'
        }
        value={held ? `${held.label}${held.value ? `: ${amountText(held.value)}` : ''}` : (said ?? '')}
        onPaste={(event) => {
          const carried = event.clipboardData.getData(CARRIED);
          const figure = carried ? readCarried(carried) : null;
          if (!figure?.subject.startsWith('figure:')) return;
          event.preventDefault();
          onFigure(figure);
        }}
        onChange={(event) => {
          setSaid(event.target.value);
          onText?.(event.target.value);
        }}
      />
    </Labelled>
  );
}
