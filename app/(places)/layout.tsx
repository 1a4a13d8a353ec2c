import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { SendToSignIn } from '@/ui/people/SendToSignIn';
import { EARLY_SCRIPT } from '@/ui/shell/early';
import { Providers } from '@/ui/shell/Providers';
import { Rail } from '@/ui/shell/Rail';
import { signedIn } from '../signedIn';

export default async function PlacesLayout({ children }: { children: ReactNode }) {
  const viewer = await signedIn();
  if (!viewer) return <SendToSignIn />;
  // The policy that this page came with names the scripts that may run in it (ops/web.ts).
  const nonce = /'nonce-([^']+)'/.exec((await headers()).get('content-security-policy') ?? '')?.[1];
  return (
    <Providers viewer={{ id: viewer.id, name: viewer.name, role: viewer.role }}>
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: a script of our own, of nothing that anybody wrote elsewhere */}
      <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: EARLY_SCRIPT }} />
      <div className="flex h-full overflow-hidden print:h-auto print:overflow-visible">
        <Rail name={viewer.name} role={viewer.role} />
        <main className="flex min-w-0 flex-1 flex-col">{children}</main>
      </div>
    </Providers>
  );
}
