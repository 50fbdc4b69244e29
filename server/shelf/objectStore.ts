import type { GetObjectCommandOutput } from "@aws-sdk/client-s3";
import type { Settings } from "../settings";

/** How long a request may take until it is connected, and in all, in milliseconds. */
const CONNECTING = 5_000;
const ANSWERING = 60_000;
/** How many objects are removed at the same time. */
const AT_ONCE = 8;

/** A store of objects by their keys, outside the database. */
export interface ObjectStore {
  put(key: string, content: Uint8Array): Promise<void>;
  /** Returns an object; undefined where there is none. */
  get(key: string): Promise<Buffer | undefined>;
  /** Removes all objects whose keys begin so. */
  removeAll(prefix: string): Promise<void>;
  /** Whether the store answers and lets us in. */
  answers(): Promise<boolean>;
  close(): void;
}

/** Returns the store that the settings name, which speaks S3's protocol; undefined where they name none. */
export async function openObjectStore({
  shelfStore,
}: Pick<Settings, "shelfStore">): Promise<ObjectStore | undefined> {
  if (shelfStore === undefined) return undefined;
  // It is large, and only those who want it load it.
  const s3 = await import("@aws-sdk/client-s3");
  const { endpoint, bucket, prefix, region, key, secret } = shelfStore;
  const client = new s3.S3Client({
    endpoint,
    region,
    // The bucket stands in the path, as every such store understands it.
    forcePathStyle: true,
    credentials: { accessKeyId: key, secretAccessKey: secret },
    requestHandler: { connectionTimeout: CONNECTING, requestTimeout: ANSWERING },
    // Not every store knows the newer checksums; ours are compared each month.
    requestChecksumCalculation: "WHEN_REQUIRED",
    responseChecksumValidation: "WHEN_REQUIRED",
  });
  const at = (name: string) => ({ Bucket: bucket, Key: `${prefix}${name}` });
  const keysOf = async (name: string): Promise<string[]> => {
    const { Contents = [] } = await client.send(
      new s3.ListObjectsV2Command({ Bucket: bucket, Prefix: `${prefix}${name}` }),
    );
    return Contents.flatMap(({ Key }) => Key ?? []);
  };
  const get = async (name: string): Promise<Buffer | undefined> => {
    try {
      return await bufferOf(await client.send(new s3.GetObjectCommand(at(name))));
    } catch (failure) {
      if (failure instanceof s3.NoSuchKey) return undefined;
      throw failure;
    }
  };
  return {
    put: async (name, content) => {
      await client.send(new s3.PutObjectCommand({ ...at(name), Body: content }));
    },
    get,
    removeAll: async (name) => {
      // The store lists a thousand at a time.
      for (let keys = await keysOf(name); keys.length > 0; keys = await keysOf(name))
        for (let from = 0; from < keys.length; from += AT_ONCE)
          await Promise.all(
            keys
              .slice(from, from + AT_ONCE)
              .map((Key) => client.send(new s3.DeleteObjectCommand({ Bucket: bucket, Key }))),
          );
    },
    // It is asked for something that isn't there, as it may let us do no more than what we need.
    answers: () =>
      get("health").then(
        () => true,
        () => false,
      ),
    close: () => client.destroy(),
  };
}

async function bufferOf({ Body }: GetObjectCommandOutput): Promise<Buffer | undefined> {
  return Body === undefined ? undefined : Buffer.from(await Body.transformToByteArray());
}
