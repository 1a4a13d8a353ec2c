import type { NextConfig } from 'next';

const headers = [
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'X-Frame-Options', value: 'DENY' },
  { key: 'Referrer-Policy', value: 'same-origin' },
  {
    key: 'Content-Security-Policy',
    // Next's own start-up scripts stand inline in the page.
    value:
      "default-src 'self'; script-src 'self' 'unsafe-inline'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'; base-uri 'none'; form-action 'self'",
  },
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
    'saxes',
    'pdfkit',
  ],
  turbopack: { root: import.meta.dirname },
  poweredByHeader: false,
  devIndicators: false,
  headers: async () => [
    { source: '/:path*', headers },
    // A scanned document is shown beside its data: a page of our own may frame it, and nothing in it runs.
    {
      source: '/api/v1/attachments/:digest',
      headers: [
        { key: 'X-Frame-Options', value: 'SAMEORIGIN' },
        { key: 'Content-Security-Policy', value: "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'self'" },
      ],
    },
  ],
};

export default config;
