import {
  getMe,
  getStartPage,
  postDemoEmpty,
  postDemoSignIn,
  postSetUp,
  postSignIn,
  postSignOut,
} from "@amigo/contract/accounts";
import { getFind, getPulse } from "@amigo/contract/house";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

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
    startPage: reads(build, getStartPage, { providesTags: ["me"] }),
    me: reads(build, getMe, { providesTags: ["me"] }),
    signIn: sendsBody(build, postSignIn),
    demoSignIn: sendsBody(build, postDemoSignIn),
    emptyDemo: sends(build, postDemoEmpty, {
      of: (_: void) => ({ body: { sure: true as const } }),
    }),
    setUp: sendsBody(build, postSetUp),
    signOut: sends(build, postSignOut, {}),
    pulse: reads(build, getPulse, {
      providesTags: ["board", "rounds", "posts", "sources", "people", "intakes"],
    }),
    find: reads(build, getFind, {
      of: (q: string) => ({ query: { q } }),
      providesTags: ["board", "sources"],
    }),
  }),
});
