import type { z } from "zod";
import { getPost, getPosts, postPost, postReckon, type PostLine, type PostPage, type Reckoning } from "@amigo/contract/posts";
import { api } from "./api";

export const { usePostsQuery, usePostQuery, useReckonQuery, useSendMutation } = api.injectEndpoints({
  endpoints: (build) => ({
    posts: build.query<PostLine[], { list?: string; before?: string }>({ query: (query) => ({ endpoint: getPosts, query: { ...query } }), providesTags: ["posts"] }),
    post: build.query<PostPage, string>({ query: (id) => ({ endpoint: getPost, params: { id } }), providesTags: ["posts"] }),
    reckon: build.query<z.output<typeof Reckoning>, { lists: readonly string[]; privately: readonly string[] }>({ query: (body) => ({ endpoint: postReckon, body }), providesTags: ["board", "private"] }),
    send: build.mutation<{ id: string; addresses: number }, { lists: readonly string[]; privately: readonly string[]; subject: string; text: string; key: string }>({ query: (body) => ({ endpoint: postPost, body }), invalidatesTags: ["posts"] }),
  }),
});
