import type { z } from "zod";
import { getHeld, getPost, getPosts, postHeld, postPost, postReckon, type HeldLine, type PostLine, type PostPage, type Reckoning } from "@amigo/contract/posts";
import { api } from "./api";

export const { usePostsQuery, usePostQuery, useHeldQuery, useDecideHeldMutation, useReckonQuery, useSendMutation } = api.injectEndpoints({
  endpoints: (build) => ({
    posts: build.query<PostLine[], { list?: string; before?: string }>({ query: (query) => ({ endpoint: getPosts, query: { ...query } }), providesTags: ["posts"] }),
    post: build.query<PostPage, string>({ query: (id) => ({ endpoint: getPost, params: { id } }), providesTags: ["posts"] }),
    held: build.query<HeldLine[], void>({ query: () => ({ endpoint: getHeld }), providesTags: ["posts"] }),
    decideHeld: build.mutation<{ addresses: number }, { id: string; decision: "let out" | "return" | "drop"; word: string }>({ query: ({ id, ...body }) => ({ endpoint: postHeld, params: { id }, body }), invalidatesTags: ["posts", "board"] }),
    reckon: build.query<z.output<typeof Reckoning>, { lists: readonly string[]; privately: readonly string[] }>({ query: (body) => ({ endpoint: postReckon, body }), providesTags: ["board", "private"] }),
    send: build.mutation<z.output<typeof postPost.answer>, { lists: readonly string[]; privately: readonly string[]; subject: string; text: string; key: string }>({ query: (body) => ({ endpoint: postPost, body }), invalidatesTags: ["posts"] }),
  }),
});
