import {
  deleteShelfThing,
  getMemberShelf,
  getShelf,
  getShelfThing,
  postShelfFile,
  postShelfLink,
  postShelfNotice,
  postShelfRestore,
  postShelfVersion,
  putShelfThing,
} from "@amigo/contract/shelf";
import { api } from "./api";
import { reads, sends, type BodyOf } from "./request";

export const {
  useShelfQuery,
  useShelfThingQuery,
  usePutFileMutation,
  usePutLinkMutation,
  useTellMembersMutation,
  useChangeThingMutation,
  usePutVersionMutation,
  useRestoreVersionMutation,
  useTakeOffMutation,
  useMemberShelfQuery,
} = api.injectEndpoints({
  endpoints: (build) => ({
    shelf: reads(build, getShelf, {
      of: (list: string) => ({ params: { id: list } }),
      providesTags: ["shelf"],
    }),
    shelfThing: reads(build, getShelfThing, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["shelf"],
    }),
    putFile: sends(build, postShelfFile, {
      of: ({ list, file }: { list: string; file: File }) => ({
        params: { id: list },
        query: { name: file.name },
        body: file,
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
      of: ({ id, file, version }: { id: string; file: File; version: number }) => ({
        params: { id },
        query: { name: file.name, version },
        body: file,
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
    memberShelf: reads(build, getMemberShelf, { providesTags: ["shelf"] }),
  }),
});
