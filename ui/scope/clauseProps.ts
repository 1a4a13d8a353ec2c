/** Scope parameters to be put in place of those of the same name; an empty list takes one away. */
export type ScopeChange = Record<string, string[]>;

/** An editor of one clause: of which name, in which scope. */
export interface ClauseProps {
  name: string;
  scope: URLSearchParams;
  onApply(put: ScopeChange): void;
}
