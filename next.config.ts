import type { NextConfig } from 'next';

// The policy of a page has a nonce of its own, and is made where requests come in (ops/web.ts).
const headers = [
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'X-Frame-Options', value: 'DENY' },
  { key: 'Referrer-Policy', value: 'same-origin' },
];

const config: NextConfig = {
  serverExternalPackages: [
    '@duckdb/node-api',
    'knex',
    'pg',
    'pg-copy-streams',
    '@node-rs/argon2',
    'busboy',
    'csv-parse',
    'csv-stringify',
    'exceljs',
    'yauzl',
    'iconv-lite',
    'chardet',
    'archiver',
    'pdfkit',
    'prom-client',
    'saxes',
    'pdfkit',
    'graphile-worker',
    'pino',
    'ipaddr.js',
    '@aws-sdk/client-s3',
    'openid-client',
    'mammoth',
    'mailparser',
  ],
  // Types are a check of the test command, by a compiler ten times as fast; a start need not wait for them again.
  typescript: { ignoreBuildErrors: true },
  turbopack: { root: import.meta.dirname },
  poweredByHeader: false,
  devIndicators: false,
  headers: async () => [
    // What pages elsewhere show says itself who may frame it (app/embed).
    { source: '/((?!embed/).*)', headers },
    { source: '/embed/:address', headers: headers.filter(({ key }) => key === 'X-Content-Type-Options') },
    // A scanned document is shown beside its data: a page of our own may frame it, and nothing in it runs.
    {
      source: '/api/v1/attachments/:digest',
      headers: [
        { key: 'X-Frame-Options', value: 'SAMEORIGIN' },
        {
          key: 'Content-Security-Policy',
          value: "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'self'",
        },
      ],
    },
  ],
};

export default config;
