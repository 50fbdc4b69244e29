import {
  deleteMemberComment,
  deleteMemberThing,
  getMemberShelf,
  getMemberThing,
  postMemberComment,
  postMemberFile,
  postMemberVersion,
  putMemberFollow,
} from "@amigo/contract/memberShelf";
import { api } from "./api";
import { reads, sends, type BodyOf } from "./request";
import { fileBody, fileParts, type FilePut } from "./shelf";

export const {
  useMemberShelfQuery,
  useMemberThingQuery,
  usePutMemberFileMutation,
  usePutMemberVersionMutation,
  useTakeMemberThingOffMutation,
  useMemberCommentMutation,
  useTakeOwnCommentOutMutation,
  useMemberFollowMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    memberShelf: reads(build, getMemberShelf, { providesTags: ["shelf"] }),
    memberThing: reads(build, getMemberThing, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["shelf"],
    }),
    putMemberFile: sends(build, postMemberFile, {
      of: ({ list, ...put }: { list: string } & FilePut) => ({
        query: { list, ...fileParts(put) },
        ...fileBody(put),
      }),
      invalidatesTags: ["shelf"],
    }),
    putMemberVersion: sends(build, postMemberVersion, {
      of: ({ id, version, ...put }: { id: string; version: number } & FilePut) => ({
        params: { id },
        query: { ...fileParts(put), version },
        ...fileBody(put),
      }),
      invalidatesTags: ["shelf"],
    }),
    takeMemberThingOff: sends(build, deleteMemberThing, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["shelf"],
    }),
    memberComment: sends(build, postMemberComment, {
      of: ({ id, ...body }: { id: string } & BodyOf<typeof postMemberComment>) => ({
        params: { id },
        body,
      }),
      invalidatesTags: ["shelf"],
    }),
    takeOwnCommentOut: sends(build, deleteMemberComment, {
      of: (params: { id: string; comment: string }) => ({ params }),
      invalidatesTags: ["shelf"],
    }),
    memberFollow: sends(build, putMemberFollow, {
      of: ({ id, follows }: { id: string; follows: boolean }) => ({
        params: { id },
        body: { follows },
      }),
      invalidatesTags: ["shelf"],
    }),
  }),
});
