'use client';

import { useMemo } from 'react';
import type { OpenOrder } from '@/contracts/answers/documents';
import { dateText } from '@/core/sentence';
import { ordersAsked } from '../address/address';
import { countText } from '../amounts';
import { useAnswer } from '../query/hooks';
import { accountCell, amountCell } from '../sheet/cell';
import type { Column } from '../sheet/gridModel';
import type { SheetModel, SheetRow } from '../sheet/model';
import { proofOf } from '../sheet/proof';
import { type ScreenProps, SheetFrame } from './SheetFrame';
import { documentStep } from './steps';

const COLUMNS: Column[] = [
  { key: 'number', label: 'Order', width: 'minmax(90px, 0.6fr)' },
  { key: 'date', label: 'Ordered on', width: '98px' },
  { key: 'due', label: 'Due', width: '98px' },
  { key: 'party', label: 'Supplier', width: 'minmax(120px, 1fr)' },
  { key: 'description', label: 'Description', width: 'minmax(140px, 1.2fr)' },
  { key: 'account', label: 'Account', width: 'minmax(120px, 1fr)', onRequest: true },
  { key: 'coding', label: 'Coding', width: 'minmax(110px, 0.9fr)', onRequest: true },
  { key: 'ordered', label: 'Ordered', width: '116px', amount: true },
  { key: 'delivered', label: 'Delivered', width: '116px', amount: true },
  { key: 'open', label: 'Open', width: '116px', amount: true },
  { key: 'received', label: 'Received', width: '108px', amount: true },
  { key: 'invoiced', label: 'Invoiced', width: '108px', amount: true },
  { key: 'paid', label: 'Paid', width: '108px', amount: true },
];

/** The open orders behind a committed amount: what is still to come of each, and when. */
export function OrdersScreen(props: ScreenProps) {
  const { screen } = props;
  const { data, error, isPending, isPlaceholderData } = useAnswer(
    'GET /commitments',
    ordersAsked(screen, screen.steps.length),
  );
  const model = useMemo((): SheetModel => {
    const rows = data?.rows ?? [];
    return {
      label: 'Open orders',
      columns: COLUMNS,
      traced: 'open',
      count: rows.length,
      rowAt: (index) => rows[index] && orderRow(rows[index]),
      indexOf: (key) => rows.findIndex((r) => keyOf(r) === key),
      total: data && {
        label: `${countText(data.total.orders)} ${data.total.orders === 1 ? 'order' : 'orders'}, in ${data.currency}`,
        open: amountCell(data.total.open),
      },
      parts: data?.parts ?? [],
      load: data?.load,
      empty: data && rows.length === 0 ? NOTHING_ORDERED : undefined,
      tie: proofOf(data?.tie ?? undefined, 'ties to its orders'),
      stale: isPlaceholderData,
      loading: isPending,
      error,
    };
  }, [data, isPending, isPlaceholderData, error]);
  return <SheetFrame {...props} sheet="orders" model={model} />;
}

/** What is told by the documents that followed an order, of all its lines together. */
const BY_DOCUMENTS: Record<string, string> = { received: 'Received of', invoiced: 'Invoiced of', paid: 'Paid of' };

const NOTHING_ORDERED = { reason: 'Nothing is on order here.', instead: null, label: null };

const keyOf = ({ entity, number, line }: OpenOrder): string => `${entity}/${number}/${line}`;

function orderRow(order: OpenOrder): SheetRow {
  const party = order.counterpartyName ?? order.counterparty;
  return {
    key: keyOf(order),
    label: `Order ${order.number}`,
    cells: {
      number: order.line > 1 ? `${order.number}, line ${order.line}` : order.number,
      date: dateText(order.date),
      due: order.dueDate && dateText(order.dueDate),
      party,
      description: order.description,
      account: accountCell(order.account, order.accountName),
      coding: order.dims.map((d) => d.name).join(', '),
      ordered: amountCell(order.ordered),
      delivered: amountCell(order.delivered),
      open: amountCell(order.open),
      received: amountCell(order.received),
      invoiced: amountCell(order.invoiced),
      paid: amountCell(order.paid),
    },
    subject: null,
    put: { accounts: [order.account], ...Object.fromEntries(order.dims.map((d) => [`dim.${d.dimension}`, [d.code]])) },
    links: [{ name: `Document ${order.number}`, step: documentStep(order.entity, order.number) }],
    step: () => null,
    say: (column) =>
      (BY_DOCUMENTS[column] ? `${BY_DOCUMENTS[column]} the whole order, by its documents; ` : '') +
      `${order.ordered === null ? 'Open' : 'Ordered less delivered'}; on ${order.account} ${order.accountName}${order.later ? '; falls due after the window' : ''}`,
  };
}
