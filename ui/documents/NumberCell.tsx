import Link from 'next/link';
import { Td } from '../parts/Table';
import { documentPath } from './address';

/** The number of a document in a list, which leads to it, or to somewhere else. */
export const NumberCell = ({
  entity,
  number,
  href = documentPath(entity, number),
}: {
  entity: string;
  number: string;
  href?: string;
}) => (
  <Td cut title={number}>
    <Link href={href} className="underline decoration-rule underline-offset-4 hover:decoration-ink">
      {number}
    </Link>
  </Td>
);
