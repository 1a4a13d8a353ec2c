/** Scope parameters to be put in place of those of the same name; an empty list takes one away. */
export type ScopeChange = Record<string, string[]>;

/** An editor of a part of a scope. */
export interface EditorProps {
  scope: URLSearchParams;
  onApply(put: ScopeChange): void;
}

/** An editor of one clause, by its name. */
export interface ClauseProps extends EditorProps {
  name: string;
}
