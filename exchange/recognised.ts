/** How sure a recognition is: told on screen, where it can be changed. */
export interface Recognised<Value> {
  value: Value;
  /** none: it can be read only so; likely: some of it speaks against; ask: it reads as well in another way. */
  doubt: 'none' | 'likely' | 'ask';
  why: string;
}
