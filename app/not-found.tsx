import type { Metadata } from 'next';
import Link from 'next/link';

export const metadata: Metadata = { title: 'No such page' };

export default function NotFound() {
  return (
    <main className="grid min-h-screen place-items-center p-6">
      <div className="w-[380px]">
        <h1 className="font-book text-[30px] leading-9 font-semibold">There is no such page</h1>
        <p className="mt-1 mb-7 text-soft">The address may be cut off, or what it led to was taken away.</p>
        <Link href="/trial-balance" className="link">
          To the trial balance
        </Link>
      </div>
    </main>
  );
}
