import {
  deleteShelfComment,
  postShelfComment,
  postShelfReminder,
  putShelfFollow,
} from "@amigo/contract/shelf";
import { api } from "./api";
import { sends, type BodyOf } from "./request";

export const {
  useCommentMutation,
  useTakeCommentOutMutation,
  useFollowMutation,
  useRemindMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    comment: sends(build, postShelfComment, {
      of: ({ id, ...body }: { id: string } & BodyOf<typeof postShelfComment>) => ({
        params: { id },
        body,
      }),
      invalidatesTags: ["shelf"],
    }),
    takeCommentOut: sends(build, deleteShelfComment, {
      of: (params: { id: string; comment: string }) => ({ params }),
      invalidatesTags: ["shelf"],
    }),
    follow: sends(build, putShelfFollow, {
      of: ({ id, follows }: { id: string; follows: boolean }) => ({
        params: { id },
        body: { follows },
      }),
      invalidatesTags: ["shelf"],
    }),
    remind: sends(build, postShelfReminder, {
      of: (id: string) => ({ params: { id } }),
    }),
  }),
});
