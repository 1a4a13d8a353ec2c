'use client';

import { useEffect, useState } from 'react';

/** A text as a code that a camera reads (ISO/IEC 18004); drawn here, and sent nowhere. */
export function QrCode({ text }: { text: string }) {
  const [drawn, setDrawn] = useState<{ size: number; path: string } | null>(null);
  useEffect(() => {
    void import('qrcode').then(({ create }) => {
      const { size, data } = create(text, { errorCorrectionLevel: 'M' }).modules;
      let path = '';
      for (let y = 0; y < size; y++)
        for (let x = 0; x < size; x++) if (data[y * size + x]) path += `M${x} ${y}h1v1h-1z`;
      setDrawn({ size, path });
    });
  }, [text]);
  if (!drawn) return <div className="h-[180px] w-[180px]" />;
  const quiet = 4;
  const side = drawn.size + 2 * quiet;
  return (
    <svg
      role="img"
      aria-label="The secret as a code for the camera of a phone"
      viewBox={`${-quiet} ${-quiet} ${side} ${side}`}
      className="h-[180px] w-[180px] bg-white"
      shapeRendering="crispEdges"
    >
      <path d={drawn.path} fill="#000" />
    </svg>
  );
}

/** How a secret comes into an app: by the camera, or typed. */
export function NewSecret({ uri }: { uri: string }) {
  const secret = new URL(uri).searchParams.get('secret') ?? '';
  return (
    <div className="flex flex-wrap items-start gap-4">
      <QrCode text={uri} />
      <p className="max-w-[34ch] text-[13px] text-soft">
        Read this with an app that shows one-time codes, or type the secret there:
        <code className="mt-1 block text-[13px] break-all text-ink">{secret.match(/.{1,4}/g)?.join(' ')}</code>
        <span className="mt-1 block">Then give the code that it shows. The secret is shown this once.</span>
      </p>
    </div>
  );
}
