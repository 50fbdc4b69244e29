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
  type HeldLine,
  type PostLine,
  type PostPage,
} from "@amigo/contract/posts";
import { api } from "./api";

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
    posts: build.query<PostLine[], { list?: string; before?: string; q?: string }>({
      query: (query) => ({ endpoint: getPosts, query: { ...query } }),
      providesTags: ["posts"],
    }),
    post: build.query<PostPage, string>({
      query: (id) => ({ endpoint: getPost, params: { id } }),
      providesTags: ["posts"],
    }),
    held: build.query<HeldLine[], void>({
      query: () => ({ endpoint: getHeld }),
      providesTags: ["posts"],
    }),
    decideHeld: build.mutation<
      { addresses: number },
      { id: string; decision: "let out" | "return" | "drop"; word: string }
    >({
      query: ({ id, ...body }) => ({ endpoint: postHeld, params: { id }, body }),
      invalidatesTags: ["posts", "board"],
    }),
    takeBack: build.mutation<{ draft: string | null }, string>({
      query: (id) => ({ endpoint: postTakeBack, params: { id } }),
      invalidatesTags: ["posts"],
    }),
    pausePost: build.mutation<unknown, { id: string; paused: boolean }>({
      query: ({ id, paused }) => ({ endpoint: postPause, params: { id }, body: { paused } }),
      invalidatesTags: ["posts"],
    }),
    cancel: build.mutation<{ cancelled: number }, string>({
      query: (id) => ({ endpoint: postCancel, params: { id } }),
      invalidatesTags: ["posts"],
    }),
    retry: build.mutation<unknown, { id: string; address: string }>({
      query: ({ id, address }) => ({ endpoint: postRetry, params: { id }, body: { address } }),
      invalidatesTags: ["posts"],
    }),
    takeOut: build.mutation<unknown, { id: string; out: boolean }>({
      query: ({ id, out }) => ({ endpoint: postTakeOut, params: { id }, body: { out } }),
      invalidatesTags: ["posts"],
    }),
  }),
});
