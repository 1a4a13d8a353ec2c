import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Just Thread', template: '%s · Just Thread' },
  description: 'Trace any figure down to its journal lines.',
};

// Each answer has a nonce of its own for its scripts, so that no page is made beforehand.
export const dynamic = 'force-dynamic';

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>{children}</body>
    </html>
  );
}
