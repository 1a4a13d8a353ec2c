'use client';

import { AccountingEditor } from './AccountingEditor';
import { BasisEditor } from './BasisEditor';
import { ClauseEditor } from './ClauseEditor';
import type { ScopeChange } from './clauseProps';
import { CurrencyEditor, EntityEditor, StatusEditor, WindowEditor } from './editors';

/** Sets a part of the sentence, or a clause by its name. */
export function PartEditor({
  control,
  scope,
  onApply,
}: {
  control: string;
  scope: URLSearchParams;
  onApply(put: ScopeChange): void;
}) {
  switch (control) {
    case 'entity':
      return <EntityEditor scope={scope} onApply={onApply} />;
    case 'window':
      return <WindowEditor scope={scope} onApply={onApply} />;
    case 'status':
      return (
        <>
          <StatusEditor
            title="Which lines count"
            choices={[
              ['posted', 'Posted lines'],
              ['all', 'Posted and unposted lines'],
              ['unposted', 'Unposted lines only'],
            ]}
            value={scope.get('status') ?? 'posted'}
            onApply={(value) => onApply({ status: [value] })}
          />
          <AccountingEditor scope={scope} onApply={onApply} />
          <BasisEditor scope={scope} onApply={onApply} />
        </>
      );
    case 'basis':
      return <BasisEditor scope={scope} onApply={onApply} />;
    case 'in':
      return <CurrencyEditor scope={scope} onApply={onApply} />;
    case 'adjustments':
      return (
        <StatusEditor
          title="Adjustment periods of the years touched"
          choices={[
            ['with', 'With adjustment periods'],
            ['without', 'Without adjustment periods'],
          ]}
          value={scope.get('adjustments') ?? 'with'}
          onApply={(value) => onApply({ adjustments: [value] })}
        />
      );
    default:
      return <ClauseEditor name={control} scope={scope} onApply={onApply} />;
  }
}
