import { createHash, createHmac, timingSafeEqual } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';

export interface ObjectStoreStandIn {
  /** What FILES_URL is set to. */
  address: string;
  /** What is there, by its key. */
  objects: Map<string, { bytes: Buffer; at: Date }>;
  /** How many bodies it was asked for. */
  asked: number;
  /** From now on it answers everything with 503, or answers again. */
  fail(yes: boolean): void;
  close(): Promise<void>;
}

export const STAND_IN_KEY = { id: 'stand-in', secret: 'stand-in-secret' };
const BUCKET = 'files';
/** Keys of a page of a list. */
const LISTED = 2;

/**
 * A small stand-in for a store that speaks the protocol of S3: it puts, gives, tells of, lists page by page and takes away
 * objects of one bucket, in memory, for whoever signs as they should (AWS Signature Version 4). For tests.
 */
export async function startObjectStore(): Promise<ObjectStoreStandIn> {
  const objects: ObjectStoreStandIn['objects'] = new Map();
  let failing = false;
  const server = createServer((request, response) => {
    void answer(request, response).catch(() => response.destroy());
  });
  const standIn: ObjectStoreStandIn = {
    address: '',
    objects,
    asked: 0,
    fail: (yes) => {
      failing = yes;
    },
    close: () => {
      server.closeAllConnections();
      return new Promise((resolve) => server.close(() => resolve()));
    },
  };

  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const chunks: Buffer[] = [];
    for await (const chunk of request) chunks.push(chunk as Buffer);
    const url = new URL(request.url ?? '/', 'http://127.0.0.1');
    const says = (status: number, body: string | Buffer = '', type = 'application/xml'): void => {
      response.writeHead(status, { 'content-type': type, 'content-length': Buffer.byteLength(body) });
      response.end(request.method === 'HEAD' ? undefined : body);
    };
    if (failing) return says(503, '<Error><Code>ServiceUnavailable</Code></Error>');
    if (!isSigned(request, url)) return says(403, '<Error><Code>SignatureDoesNotMatch</Code></Error>');
    const [, bucket, ...rest] = url.pathname.split('/').map(decodeURIComponent);
    if (bucket !== BUCKET) return says(404, '<Error><Code>NoSuchBucket</Code></Error>');
    const key = rest.join('/');
    const held = objects.get(key);
    switch (request.method) {
      case 'PUT':
        objects.set(key, { bytes: Buffer.concat(chunks), at: new Date() });
        return says(200);
      case 'DELETE':
        objects.delete(key);
        return says(204);
      case 'GET':
        if (key === '') return says(200, listed(url.searchParams, objects));
        standIn.asked += 1;
        return held
          ? says(200, held.bytes, 'application/octet-stream')
          : says(404, '<Error><Code>NoSuchKey</Code></Error>');
      case 'HEAD':
        return held ? says(200, held.bytes, 'application/octet-stream') : says(404);
      default:
        return says(405);
    }
  }

  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const endpoint = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  standIn.address = `s3://${BUCKET}/evidence?${new URLSearchParams({ endpoint, region: 'north-1' })}`;
  return standIn;
}

function listed(params: URLSearchParams, objects: ObjectStoreStandIn['objects']): string {
  const after = params.get('continuation-token') ?? '';
  const keys = [...objects.keys()].filter((k) => k.startsWith(params.get('prefix') ?? '') && k > after).sort();
  const page = keys.slice(0, LISTED);
  const more = keys.length > page.length;
  const contents = page.map(
    (k) =>
      `<Contents><Key>${k}</Key><LastModified>${objects.get(k)?.at.toISOString()}</LastModified><Size>${objects.get(k)?.bytes.length}</Size></Contents>`,
  );
  return `<?xml version="1.0"?><ListBucketResult xmlns="http://s3.amazonaws.com/doc/2006-03-01/"><IsTruncated>${more}</IsTruncated>${
    more ? `<NextContinuationToken>${page.at(-1)}</NextContinuationToken>` : ''
  }${contents.join('')}</ListBucketResult>`;
}

const hmac = (key: string | Buffer, text: string): Buffer => createHmac('sha256', key).update(text).digest();

/** Whether a request is signed by the one who may ask. */
function isSigned(request: IncomingMessage, url: URL): boolean {
  const [, id, day, region, service, headers, signature] =
    /^AWS4-HMAC-SHA256 Credential=([^/]+)\/(\d{8})\/([^/]+)\/([^/]+)\/aws4_request, SignedHeaders=([^,]+), Signature=([0-9a-f]{64})$/.exec(
      request.headers.authorization ?? '',
    ) ?? [];
  if (!id || !day || !region || !service || !headers || !signature || id !== STAND_IN_KEY.id) return false;
  const canonical = [
    request.method,
    url.pathname,
    [...url.searchParams]
      .map(([name, value]) => `${encoded(name)}=${encoded(value)}`)
      .sort()
      .join('&'),
    ...headers.split(';').map((name) => `${name}:${String(request.headers[name] ?? '').trim()}`),
    '',
    headers,
    request.headers['x-amz-content-sha256'],
  ].join('\n');
  const stamp = request.headers['x-amz-date'];
  const scope = `${day}/${region}/${service}/aws4_request`;
  const text = ['AWS4-HMAC-SHA256', stamp, scope, createHash('sha256').update(canonical).digest('hex')].join('\n');
  const key = [day, region, service, 'aws4_request'].reduce<string | Buffer>(hmac, `AWS4${STAND_IN_KEY.secret}`);
  return timingSafeEqual(hmac(key, text), Buffer.from(signature, 'hex'));
}

const encoded = (text: string): string =>
  encodeURIComponent(text).replace(/[!'()*]/g, (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`);
