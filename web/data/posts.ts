import {
  getHeld,
  getPost,
  getPosts,
  postCancel,
  postHeld,
  postPause,
  postRetry,
  postTakeBack,
  postTakeOut,
} from "@amigo/contract/posts";
import { api } from "./api";
import { reads, sends } from "./request";

export const {
  usePostsQuery,
  usePostQuery,
  useHeldQuery,
  useDecideHeldMutation,
  useTakeBackMutation,
  usePausePostMutation,
  useCancelMutation,
  useRetryMutation,
  useTakeOutMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    posts: reads(build, getPosts, {
      of: (query: { list?: string; before?: string; q?: string }) => ({ query: { ...query } }),
      providesTags: ["posts"],
    }),
    post: reads(build, getPost, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["posts"],
    }),
    held: reads(build, getHeld, { providesTags: ["posts"] }),
    decideHeld: sends(build, postHeld, {
      of: ({
        id,
        ...body
      }: {
        id: string;
        decision: "let out" | "return" | "drop";
        word: string;
      }) => ({ params: { id }, body }),
      invalidatesTags: ["posts", "board"],
    }),
    takeBack: sends(build, postTakeBack, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["posts"],
    }),
    pausePost: sends(build, postPause, {
      of: ({ id, paused }: { id: string; paused: boolean }) => ({
        params: { id },
        body: { paused },
      }),
      invalidatesTags: ["posts"],
    }),
    cancel: sends(build, postCancel, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["posts"],
    }),
    retry: sends(build, postRetry, {
      of: ({ id, address }: { id: string; address: string }) => ({
        params: { id },
        body: { address },
      }),
      invalidatesTags: ["posts"],
    }),
    takeOut: sends(build, postTakeOut, {
      of: ({ id, out }: { id: string; out: boolean }) => ({ params: { id }, body: { out } }),
      invalidatesTags: ["posts"],
    }),
  }),
});
