'use client';

import Link from 'next/link';
import type { FormEvent } from 'react';
import { countText, momentText } from '../amounts';
import { Failure, Labelled, Place, PROPOSAL_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { TemplateForm } from './TemplateForm';
import { TOUCHES } from './words';

const NO_PARAMS = new URLSearchParams();

/** Sets of proposed entries that can be switched on together, and templates of entries that recur. */
export function SetsPage() {
  const me = useMe();
  const sets = useAnswer('GET /proposed-sets', NO_PARAMS);
  const templates = useAnswer('GET /proposed-templates', NO_PARAMS);
  const make = useChange((body: { name: string; about: string }) => ask('POST /proposed-sets', { body }), TOUCHES);
  const drop = useChange(
    (id: number) => ask('DELETE /proposed-templates/{id}', { path: { id } }),
    ['/proposed-templates'],
  );
  const may = me.role !== 'reader';
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const said = new FormData(form);
    const done = await make
      .mutateAsync({ name: String(said.get('name') ?? ''), about: String(said.get('about') ?? '') })
      .catch(() => null);
    if (done) form.reset();
  };
  return (
    <Place title="Sets and templates" tabs={PROPOSAL_TABS} here="/proposals/sets">
      <p className="mb-3 max-w-[80ch] text-soft">
        A set is entries that count together where a sentence names it: what should be booked, and beside it what is
        tried out (what if the lease were ended?). Any of them can be switched on together.
      </p>
      <Failure error={sets.error} />
      <Table
        label="Sets"
        narrow
        columns={[{ label: 'Set' }, { label: 'What it is for' }, { label: 'Entries', right: true }, { label: 'By' }]}
      >
        {(sets.data?.rows ?? []).map((s) => (
          <Tr key={s.name}>
            <Td>
              <Link
                className="font-semibold hover:underline"
                href={`/trial-balance?${new URLSearchParams({ basis: 'with-proposed', set: s.name })}`}
              >
                {s.name}
              </Link>
            </Td>
            <Td>{s.about}</Td>
            <Td right>{countText(s.entries)}</Td>
            <Td>{s.by}</Td>
          </Tr>
        ))}
      </Table>
      {may && (
        <form onSubmit={submit} className="mt-3 flex max-w-[760px] items-end gap-3">
          <Labelled label="Another set">
            <input name="name" required maxLength={60} className="field w-[200px]" />
          </Labelled>
          <Labelled label="What it is for" wide>
            <input name="about" maxLength={500} className="field w-full" />
          </Labelled>
          <button type="submit" className="button" disabled={make.isPending}>
            Make it
          </button>
        </form>
      )}
      <Failure error={make.error} />
      <h2 className="mt-8 mb-1 font-book text-[16px] font-semibold">Templates of entries that recur</h2>
      {(templates.data?.rows.length ?? 0) === 0 ? (
        <p className="max-w-[76ch] text-soft">
          None is kept. A template has lines with an amount, with so many percent of a figure over the period of the
          entry, or with what is left.
        </p>
      ) : (
        <Table
          label="Templates"
          narrow
          columns={[{ label: 'Template' }, { label: 'Company' }, { label: 'Kept by' }, { label: '' }]}
        >
          {(templates.data?.rows ?? []).map((t) => (
            <Tr key={t.id}>
              <Td>
                <Link className="font-semibold hover:underline" href={`/proposals/new?template=${t.id}`}>
                  {t.name}
                </Link>
              </Td>
              <Td>{t.entity}</Td>
              <Td>
                {t.by}, {momentText(t.at)}
              </Td>
              <Td>
                {may && (
                  <button
                    type="button"
                    className="link"
                    onClick={() => window.confirm(`Take “${t.name}” away?`) && drop.mutate(t.id)}
                  >
                    take away
                  </button>
                )}
              </Td>
            </Tr>
          ))}
        </Table>
      )}
      <Failure error={drop.error} />
      {may && <TemplateForm />}
    </Place>
  );
}
