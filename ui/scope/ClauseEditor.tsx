'use client';

import { AccountEditor } from './AccountEditor';
import type { ClauseProps } from './clauseProps';
import { isNumber, isValue } from './clauses';
import { LoadEditor } from './LoadEditor';
import { MemberEditor } from './MemberEditor';
import { NumberEditor } from './NumberEditor';
import { OneValueEditor } from './OneValueEditor';
import { ValueEditor } from './ValueEditor';

/** One clause of the scope: typed, or picked from what there is. What it takes is counted before it is set. */
export function ClauseEditor(props: ClauseProps) {
  const { name } = props;
  if (name === 'accounts') return <AccountEditor {...props} />;
  if (name === 'load') return <LoadEditor {...props} />;
  if (name.startsWith('dim.')) return <MemberEditor {...props} />;
  if (isNumber(name)) return <NumberEditor {...props} />;
  return isValue(name) ? <ValueEditor {...props} /> : <OneValueEditor {...props} />;
}
