import type { ReactNode } from 'react';
import { SendToSignIn } from '@/ui/people/SendToSignIn';
import { Providers } from '@/ui/shell/Providers';
import { Rail } from '@/ui/shell/Rail';
import { signedIn } from '../signedIn';

export default async function PlacesLayout({ children }: { children: ReactNode }) {
  const viewer = await signedIn();
  if (!viewer) return <SendToSignIn />;
  return (
    <Providers viewer={{ name: viewer.name, role: viewer.role }}>
      <div className="flex h-full overflow-hidden">
        <Rail name={viewer.name} role={viewer.role} />
        <main className="flex min-w-0 flex-1 flex-col">{children}</main>
      </div>
    </Providers>
  );
}
