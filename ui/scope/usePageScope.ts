'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { changedScope } from '../address/address';
import { isOfList } from '../parts/listing';
import { useEntities } from '../query/hooks';
import type { ScopeChange } from './clauseProps';

/** The scope of a page that is no sheet: in the address bar, of one entity, changed by the sentence. */
export function usePageScope(path: string) {
  const params = useSearchParams();
  const router = useRouter();
  const { data } = useEntities();
  const entity = params.get('entity') ?? data?.entities[0]?.code;
  const scope = new URLSearchParams(params);
  if (entity) scope.set('entity', entity);
  const ofList = [...scope].filter(([name]) => isOfList(name));
  for (const [name] of ofList) scope.delete(name);
  return {
    scope,
    asked: entity ? scope : null,
    change(put: ScopeChange): void {
      const next = new URLSearchParams(scope);
      // A chart belongs to one company.
      changedScope(next, put.entity ? { ...put, entity: put.entity.slice(-1) } : put);
      for (const [name, value] of ofList) next.append(name, value);
      router.replace(`${path}?${next}`, { scroll: false });
    },
  };
}
