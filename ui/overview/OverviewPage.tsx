'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { useState } from 'react';
import GridLayout, { useContainerWidth } from 'react-grid-layout';
import 'react-grid-layout/css/styles.css';
import type { Overview } from '@/contracts/answers/leaving';
import { PANEL_COLUMNS, PANEL_KINDS, type Panel, type PanelKind } from '@/contracts/panels';
import { Failure, Place, REPORT_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { useMe } from '../shell/me';
import { moved, placed } from './layout';
import { PanelView } from './PanelView';

const NO_PARAMS = new URLSearchParams();
const ROW_PX = 60;
const GAP_PX = 12;
/** A panel of each kind is so wide and high at first. */
const FIRST: Record<PanelKind, { w: number; h: number }> = {
  figure: { w: 4, h: 5 },
  table: { w: 6, h: 6 },
  picture: { w: 6, h: 6 },
};
const KIND_WORD: Record<PanelKind, string> = {
  figure: 'as a figure with its course',
  table: 'as its first rows',
  picture: 'as a picture',
};
const WINDOWS: [string, string][] = [
  ['', 'each report’s own window'],
  ['latest-period', 'the latest period'],
  ['last-period', 'the last full period'],
  ['year-to-date', 'the year to date'],
  ['last-year', 'the last year'],
  ['trailing-12', 'the last twelve periods'],
];

/** A page of panels: read under one sentence that drives all of them, and arranged by dragging or by keys. */
export function OverviewPage({ id }: { id: number }) {
  const { data, error } = useAnswer('GET /overviews/{id}', NO_PARAMS, { id });
  return (
    <Place title={data?.name ?? 'Overview'} tabs={REPORT_TABS} here="/reports/overviews">
      <Failure error={error} />
      {data && <Page overview={data} />}
    </Place>
  );
}

function Page({ overview }: { overview: Overview }) {
  const router = useRouter();
  const params = useSearchParams();
  const entities = useEntities();
  const reports = useAnswer('GET /reports', NO_PARAMS).data?.rows ?? [];
  const [arranging, setArranging] = useState(params.get('arrange') === 'yes' && overview.mine);
  const [panels, setPanels] = useState<Panel[]>(overview.panels);
  const [report, setReport] = useState('');
  const [kind, setKind] = useState<PanelKind>('table');
  const { width, containerRef, mounted } = useContainerWidth();
  const keep = useChange(
    (body: { panels?: Panel[]; shared?: boolean; scope?: Record<string, string[]> }) =>
      ask('PUT /overviews/{id}', { path: { id: overview.id }, body }),
    ['/overviews'],
  );
  const put = (next: Panel[]): void => {
    setPanels(next);
    keep.mutate({ panels: next });
  };
  // What the reader chooses drives the page for them; what is kept with it drives it for everybody.
  const window = params.get('window') ?? overview.scope.window?.[0] ?? '';
  const company = params.get('entity') ?? overview.scope.entity?.[0] ?? '';
  const drive = (name: string, value: string): void => {
    const next = new URLSearchParams(params);
    next.delete('arrange');
    if (value) next.set(name, value);
    else next.delete(name);
    router.replace(`/reports/overviews/${overview.id}${next.size > 0 ? `?${next}` : ''}`);
  };
  const scope = new URLSearchParams([
    ...(params.get('window') ? [['window', params.get('window') as string]] : []),
    ...(params.get('entity') ? [['entity', params.get('entity') as string]] : []),
  ]);
  const add = (): void => {
    if (!report) return;
    const bottom = Math.max(0, ...panels.map((p) => p.y + p.h));
    const key = `p${Date.now().toString(36)}`;
    put([...panels, { key, report: Number(report), kind, x: 0, y: bottom, ...FIRST[kind] }]);
    setReport('');
  };
  return (
    <>
      <div className="mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-1 text-[15px]">
        <span className="font-book">
          Over{' '}
          <Select
            look="word"
            aria-label="Window"
            className="max-w-[300px]"
            value={window}
            onChange={(event) => drive('window', event.target.value)}
          >
            {WINDOWS.map(([value, says]) => (
              <option key={value} value={value}>
                {says}
              </option>
            ))}
          </Select>
          , of{' '}
          <Select
            look="word"
            aria-label="Company"
            className="max-w-[300px]"
            value={company}
            onChange={(event) => drive('entity', event.target.value)}
          >
            <option value="">each report’s own company</option>
            {(entities.data?.entities ?? []).map((e) => (
              <option key={e.code} value={e.code}>
                {e.name}
              </option>
            ))}
          </Select>
        </span>
        <span className="ml-auto flex gap-x-4 text-[13.5px] print:hidden">
          {panels.length > 0 && <Leaves overview={overview} scope={scope} />}
          {overview.mine && (
            <>
              <button type="button" className="link" onClick={() => keep.mutate({ shared: !overview.shared })}>
                {overview.shared ? 'Keep to yourself' : 'Share'}
              </button>
              <button
                type="button"
                className="link"
                onClick={() =>
                  keep.mutate({
                    scope: { ...(window ? { window: [window] } : {}), ...(company ? { entity: [company] } : {}) },
                  })
                }
              >
                Keep this sentence with it
              </button>
              <button type="button" className="link" aria-pressed={arranging} onClick={() => setArranging(!arranging)}>
                {arranging ? 'Done' : 'Arrange'}
              </button>
            </>
          )}
        </span>
      </div>
      <Failure error={keep.error} />
      {arranging && (
        <div className="mb-3 flex flex-wrap items-center gap-3 border-y border-rule py-2 text-[13.5px]">
          <Select
            aria-label="Report"
            value={report}
            className="w-[260px]"
            onChange={(event) => setReport(event.target.value)}
          >
            <option value="">a report …</option>
            {reports.map((r) => (
              <option key={r.id} value={r.id}>
                {r.name}
              </option>
            ))}
          </Select>
          <Select
            aria-label="Shown"
            value={kind}
            className="w-[230px]"
            onChange={(event) => setKind(event.target.value as PanelKind)}
          >
            {PANEL_KINDS.map((k) => (
              <option key={k} value={k}>
                {KIND_WORD[k]}
              </option>
            ))}
          </Select>
          <button type="button" className="button" disabled={!report} onClick={add}>
            Add a panel
          </button>
          <span className="text-soft">
            Drag a panel by its head, or go to it and use the arrows; with Shift they make it wider, narrower, higher,
            lower.
          </span>
        </div>
      )}
      {panels.length === 0 && (
        <p className="text-soft">
          {reports.length === 0
            ? 'Keep a report first: from any sheet with O.'
            : 'There are no panels yet: Arrange, then add one.'}
        </p>
      )}
      <div ref={containerRef}>
        {mounted && (
          <GridLayout
            width={width}
            layout={panels.map(({ key, x, y, w, h }) => ({ i: key, x, y, w, h, minW: 2, minH: 2 }))}
            gridConfig={{ cols: PANEL_COLUMNS, rowHeight: ROW_PX, margin: [GAP_PX, GAP_PX], containerPadding: [0, 0] }}
            dragConfig={{ enabled: arranging, handle: '.panel-head' }}
            resizeConfig={{ enabled: arranging }}
            onLayoutChange={(layout) => {
              const next = placed(panels, layout);
              if (arranging && next) put(next);
            }}
          >
            {panels.map((panel) => (
              <div key={panel.key}>
                <PanelView
                  overview={overview.id}
                  panel={panel}
                  scope={scope}
                  arranging={arranging}
                  onMove={(key, stretch) => put(moved(panels, panel.key, key, stretch))}
                  onDrop={() => put(panels.filter((p) => p.key !== panel.key))}
                />
              </div>
            ))}
          </GridLayout>
        )}
      </div>
    </>
  );
}

/** A page of panels leaves whole: on paper, as a workbook, or frozen under a link that never changes. */
function Leaves({ overview, scope }: { overview: { id: number; name: string }; scope: URLSearchParams }) {
  const router = useRouter();
  const me = useMe();
  const freeze = useChange(
    () =>
      ask('POST /frozen', {
        body: { path: `/overviews/${overview.id}?${scope}`, page: `/reports/overviews/${overview.id}` },
      }),
    ['/frozen'],
  );
  const file = (format: 'pdf' | 'xlsx'): string => {
    const query = new URLSearchParams(scope);
    query.set('format', format);
    return `/api/v1/overviews/${overview.id}/file?${query}`;
  };
  return (
    <>
      <a className="link" download href={file('pdf')}>
        On paper
      </a>
      <a className="link" download href={file('xlsx')}>
        As a workbook
      </a>
      {me.role !== 'reader' && (
        <button
          type="button"
          className="link"
          disabled={freeze.isPending}
          onClick={() =>
            void freeze.mutateAsync(undefined).then(
              ({ address }) =>
                toast(`“${overview.name}” is frozen as it is`, {
                  action: { label: 'Open', onClick: () => router.push(address) },
                }),
              (error: Error) => toast(error.message),
            )
          }
        >
          Freeze
        </button>
      )}
    </>
  );
}
