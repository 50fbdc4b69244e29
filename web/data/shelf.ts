import {
  deleteShelfThing,
  getShelf,
  getShelfThing,
  postShelfFile,
  postShelfLink,
  postShelfNotice,
  postShelfRestore,
  postShelfVersion,
  putShelfOpenToMembers,
  putShelfThing,
} from "@amigo/contract/shelf";
import { api } from "./api";
import { reads, sends, type BodyOf } from "./request";

/** A file that is put somewhere: itself, or the id under which its pieces have come. */
export interface FilePut {
  file: File;
  upload: string | undefined;
}

/** The parts of a request that every file has. */
export function fileParts({ file, upload }: FilePut) {
  return { name: file.name, upload };
}

/** The body of a request with a file: none where its pieces have come before. */
export function fileBody({ file, upload }: FilePut): { body?: File } {
  return upload === undefined ? { body: file } : {};
}

export const {
  useShelfQuery,
  useOpenShelfMutation,
  useShelfThingQuery,
  usePutFileMutation,
  usePutLinkMutation,
  useTellMembersMutation,
  useChangeThingMutation,
  usePutVersionMutation,
  useRestoreVersionMutation,
  useTakeOffMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    shelf: reads(build, getShelf, {
      of: (list: string) => ({ params: { id: list } }),
      providesTags: ["shelf"],
    }),
    openShelf: sends(build, putShelfOpenToMembers, {
      of: ({ list, ...body }: { list: string } & BodyOf<typeof putShelfOpenToMembers>) => ({
        params: { id: list },
        body,
      }),
      invalidatesTags: ["shelf"],
    }),
    shelfThing: reads(build, getShelfThing, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["shelf"],
    }),
    putFile: sends(build, postShelfFile, {
      of: ({ list, folder, ...put }: { list: string; folder: string } & FilePut) => ({
        params: { id: list },
        query: { ...fileParts(put), folder },
        ...fileBody(put),
      }),
      invalidatesTags: ["shelf"],
    }),
    putLink: sends(build, postShelfLink, {
      of: ({ list, ...body }: { list: string } & BodyOf<typeof postShelfLink>) => ({
        params: { id: list },
        body,
      }),
      invalidatesTags: ["shelf"],
    }),
    tellMembers: sends(build, postShelfNotice, {
      of: ({ list, ...body }: { list: string } & BodyOf<typeof postShelfNotice>) => ({
        params: { id: list },
        body,
      }),
      invalidatesTags: ["posts"],
    }),
    changeThing: sends(build, putShelfThing, {
      of: ({ id, ...body }: { id: string } & BodyOf<typeof putShelfThing>) => ({
        params: { id },
        body,
      }),
      invalidatesTags: ["shelf"],
    }),
    putVersion: sends(build, postShelfVersion, {
      of: ({ id, version, ...put }: { id: string; version: number } & FilePut) => ({
        params: { id },
        query: { ...fileParts(put), version },
        ...fileBody(put),
      }),
      invalidatesTags: ["shelf"],
    }),
    restoreVersion: sends(build, postShelfRestore, {
      of: ({ id, version }: { id: string; version: number }) => ({
        params: { id },
        body: { version },
      }),
      invalidatesTags: ["shelf"],
    }),
    takeOff: sends(build, deleteShelfThing, {
      of: ({ id, list }: { id: string; list: string }) => ({ params: { id }, query: { list } }),
      invalidatesTags: ["shelf"],
    }),
  }),
});
