import type { Entities } from '@/contracts/answers/charts';

/** Members of every dimension, for a select: each as dimension:member. */
export const memberOptions = (dimensions: Entities['dimensions']) =>
  dimensions.map((d) => (
    <optgroup key={d.code} label={d.name}>
      {d.members.map((m) => (
        <option key={m.code} value={`${d.code}:${m.code}`}>
          {m.name}
        </option>
      ))}
    </optgroup>
  ));
