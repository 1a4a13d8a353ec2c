import { describe, expect, it } from 'vitest';
import { foundOn, turned } from './turning';

const START = { page: 1, turned: false };

describe('the page of a paper that is shown', () => {
  it('is the first that says what is sought', () => {
    expect(foundOn(START, [0, 2, 1]).page).toBe(2);
    expect(foundOn({ page: 3, turned: false }, [0, 0, 0]).page).toBe(3);
  });

  it('stays where a reader turned to, though what is sought is found after that', () => {
    expect(foundOn(turned(START, 1, 3), [1, 0, 0]).page).toBe(2);
  });

  it('ends with the first and the last', () => {
    expect(turned(START, -1, 3).page).toBe(1);
    expect(turned({ page: 3, turned: true }, 1, 3).page).toBe(3);
  });
});
