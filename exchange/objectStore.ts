import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';

/** A place that several servers reach, in which files lie under their names. */
export interface ObjectStore {
  /** Puts a file of the disk there; what is there under the name already stays. */
  put(name: string, path: string, bytes: number): Promise<void>;
  /** @returns null where there is none of the name */
  get(name: string): Promise<Readable | null>;
  remove(name: string): Promise<void>;
  /** All that is there, with when it came. */
  list(): AsyncGenerator<{ name: string; at: Date }>;
  close(): void;
}

/** Whoever does not answer at all is not waited for longer. */
const CONNECT_MS = 5_000;
const SILENT_MS = 30_000;

interface Opened {
  s3: typeof import('@aws-sdk/client-s3');
  client: import('@aws-sdk/client-s3').S3Client;
}

const isMissing = (error: unknown): boolean =>
  (error as { $metadata?: { httpStatusCode?: number } }).$metadata?.httpStatusCode === 404;

/**
 * A bucket of a store that speaks the protocol of S3.
 * @param address s3://bucket/folder?endpoint=https://…&region=…; who asks is said by AWS_ACCESS_KEY_ID and
 *   AWS_SECRET_ACCESS_KEY, or however else the client finds it
 * @throws Error for an address that is none
 */
export function objectStoreAt(address: string): ObjectStore {
  const url = URL.canParse(address) ? new URL(address) : null;
  if (url?.protocol !== 's3:' || url.hostname === '')
    throw new Error('FILES_URL is no address of a store: write s3://bucket, or s3://bucket/folder?endpoint=https://…');
  const Bucket = url.hostname;
  const folder = url.pathname.replace(/^\/+|\/+$/g, '');
  const before = folder === '' ? '' : `${decodeURIComponent(folder)}/`;
  const endpoint = url.searchParams.get('endpoint');
  // The client is large, and read when it is first needed.
  let opening: Promise<Opened> | null = null;
  const opened = (): Promise<Opened> => {
    opening ??= import('@aws-sdk/client-s3').then((s3) => ({
      s3,
      client: new s3.S3Client({
        region: url.searchParams.get('region') ?? 'us-east-1',
        // A store of one's own is reached by its address; buckets are folders of it.
        ...(endpoint === null ? {} : { endpoint, forcePathStyle: true }),
        // Digests are our own: what comes back is held against its name.
        requestChecksumCalculation: 'WHEN_REQUIRED',
        responseChecksumValidation: 'WHEN_REQUIRED',
        requestHandler: { connectionTimeout: CONNECT_MS, requestTimeout: SILENT_MS },
      }),
    }));
    return opening;
  };
  const Key = (name: string): string => `${before}${name}`;
  return {
    async put(name, path, bytes) {
      const { s3, client } = await opened();
      const there = await client.send(new s3.HeadObjectCommand({ Bucket, Key: Key(name) })).catch((error: unknown) => {
        if (isMissing(error)) return null;
        throw error;
      });
      if (there?.ContentLength === bytes) return;
      await client.send(
        new s3.PutObjectCommand({ Bucket, Key: Key(name), Body: createReadStream(path), ContentLength: bytes }),
      );
    },
    async get(name) {
      const { s3, client } = await opened();
      try {
        const { Body } = await client.send(new s3.GetObjectCommand({ Bucket, Key: Key(name) }));
        return Body instanceof Readable ? Body : null;
      } catch (error) {
        if (isMissing(error)) return null;
        throw error;
      }
    },
    async remove(name) {
      const { s3, client } = await opened();
      await client.send(new s3.DeleteObjectCommand({ Bucket, Key: Key(name) }));
    },
    async *list() {
      const { s3, client } = await opened();
      for await (const page of s3.paginateListObjectsV2({ client }, { Bucket, Prefix: before }))
        for (const { Key: key, LastModified } of page.Contents ?? [])
          if (key !== undefined) yield { name: key.slice(before.length), at: LastModified ?? new Date() };
    },
    close: () => void opening?.then(({ client }) => client.destroy()),
  };
}
