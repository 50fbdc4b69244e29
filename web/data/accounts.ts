import type { z } from "zod";
import {
  getMe,
  getStartPage,
  postDemoEmpty,
  postDemoSignIn,
  postSetUp,
  postSignIn,
  postSignOut,
  type Me,
  type SetUp,
  type StartPage,
} from "@amigo/contract/accounts";
import { getFind, getPulse, type Found, type Pulse } from "@amigo/contract/house";
import { api } from "./api";

export const {
  useStartPageQuery,
  useMeQuery,
  useSignInMutation,
  useDemoSignInMutation,
  useEmptyDemoMutation,
  useSetUpMutation,
  useSignOutMutation,
  usePulseQuery,
  useFindQuery,
} = api.injectEndpoints({
  endpoints: (build) => ({
    startPage: build.query<z.output<typeof StartPage>, void>({
      query: () => ({ endpoint: getStartPage }),
      providesTags: ["me"],
    }),
    me: build.query<Me, void>({ query: () => ({ endpoint: getMe }), providesTags: ["me"] }),
    signIn: build.mutation<unknown, { email: string; password: string }>({
      query: (body) => ({ endpoint: postSignIn, body }),
    }),
    demoSignIn: build.mutation<unknown, { email: string }>({
      query: (body) => ({ endpoint: postDemoSignIn, body }),
    }),
    emptyDemo: build.mutation<unknown, void>({
      query: () => ({ endpoint: postDemoEmpty, body: { sure: true } }),
    }),
    setUp: build.mutation<unknown, z.input<typeof SetUp>>({
      query: (body) => ({ endpoint: postSetUp, body }),
    }),
    signOut: build.mutation<unknown, void>({ query: () => ({ endpoint: postSignOut }) }),
    pulse: build.query<Pulse, void>({
      query: () => ({ endpoint: getPulse }),
      providesTags: ["board", "rounds", "posts", "sources", "people", "intakes"],
    }),
    find: build.query<z.output<typeof Found>[], string>({
      query: (q) => ({ endpoint: getFind, query: { q } }),
      providesTags: ["board", "sources"],
    }),
  }),
});
