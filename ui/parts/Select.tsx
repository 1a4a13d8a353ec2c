'use client';

import { Select as Primitive } from 'radix-ui';
import { Children, Fragment, isValidElement, type ReactNode } from 'react';
import { isCharacter } from '../shell/keys';

interface Props {
  value?: string | number | undefined;
  defaultValue?: string | number | undefined;
  name?: string;
  required?: boolean;
  disabled?: boolean;
  'aria-label'?: string;
  title?: string | undefined;
  /** `word` stands in a sentence; a field stands in a form. */
  look?: 'field' | 'word';
  className?: string;
  onChange?(event: { target: { value: string } }): void;
  /** `option` and `optgroup` elements, as a select has them. */
  children: ReactNode;
}

/** The primitive has no choice without a value. */
const NOTHING = '~';
const held = (value: string): string => (value === '' ? NOTHING : value);
const meant = (value: string): string => (value === NOTHING ? '' : value);

/** One of several: the one control for it on every page. What is in its list is written as for a native select. */
export function Select({
  value,
  defaultValue,
  name,
  required,
  disabled,
  title,
  look = 'field',
  className = '',
  onChange,
  children,
  ...aria
}: Props) {
  const options = optionsOf(children);
  const first = options[0]?.value ?? '';
  const shown = options.some((o) => o.value === String(value ?? '')) ? String(value ?? '') : first;
  return (
    <Primitive.Root
      {...(value === undefined ? { defaultValue: held(String(defaultValue ?? first)) } : { value: held(shown) })}
      {...(name ? { name } : {})}
      {...(required ? { required } : {})}
      {...(disabled ? { disabled } : {})}
      onValueChange={(next) => onChange?.({ target: { value: meant(next) } })}
    >
      <Primitive.Trigger
        {...aria}
        title={title}
        data-value={value === undefined ? undefined : shown}
        // In a sentence beside a sheet a letter is a key of the sheet: it must not choose another one unseen.
        onKeyDown={(event) => {
          if (look === 'word' && isCharacter(event.key)) event.preventDefault();
        }}
        className={`${look === 'field' ? 'field inline-flex items-center justify-between gap-1.5 text-left' : 'inline-flex max-w-[180px] cursor-pointer items-baseline border-b border-rule text-ink hover:border-ink'} ${className}`}
      >
        <span className="truncate">
          <Primitive.Value />
        </span>
        {look === 'field' && <Primitive.Icon className="shrink-0 text-[10px] text-soft">▾</Primitive.Icon>}
      </Primitive.Trigger>
      <Primitive.Portal>
        <Primitive.Content
          position="popper"
          sideOffset={4}
          collisionPadding={12}
          className="panel z-40 p-1 text-[14px]"
        >
          <Primitive.Viewport className="max-h-[min(60vh,var(--radix-select-content-available-height))] min-w-(--radix-select-trigger-width)">
            {grouped(options).map(({ group, own }) => (
              <Primitive.Group key={group ?? ''}>
                {group && (
                  <Primitive.Label className="px-2 pt-1.5 pb-0.5 text-[12.5px] text-faint">{group}</Primitive.Label>
                )}
                {own.map((o) => (
                  <Primitive.Item
                    key={o.value}
                    value={held(o.value)}
                    data-value={o.value}
                    {...(o.disabled ? { disabled: true } : {})}
                    className="cursor-pointer px-2 py-[3px] outline-none data-[disabled]:text-faint data-[highlighted]:bg-chosen data-[state=checked]:font-semibold"
                  >
                    <Primitive.ItemText>{o.label}</Primitive.ItemText>
                  </Primitive.Item>
                ))}
              </Primitive.Group>
            ))}
          </Primitive.Viewport>
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}

interface Option {
  value: string;
  label: ReactNode;
  group: string | null;
  disabled: boolean;
}

/** The options among elements, with the group that each is in. */
function optionsOf(children: ReactNode, group: string | null = null): Option[] {
  return Children.toArray(children).flatMap((child): Option[] => {
    if (!isValidElement<{ value?: string | number; label?: string; disabled?: boolean; children?: ReactNode }>(child))
      return [];
    const { props, type } = child;
    if (type === Fragment) return optionsOf(props.children, group);
    if (type === 'optgroup') return optionsOf(props.children, props.label ?? null);
    if (type !== 'option') return [];
    const value = String(props.value ?? Children.toArray(props.children).join(''));
    return [{ value, label: props.children, group, disabled: props.disabled ?? false }];
  });
}

function grouped(options: readonly Option[]): { group: string | null; own: Option[] }[] {
  const groups: { group: string | null; own: Option[] }[] = [];
  for (const option of options) {
    const last = groups[groups.length - 1];
    if (last && last.group === option.group) last.own.push(option);
    else groups.push({ group: option.group, own: [option] });
  }
  return groups;
}
