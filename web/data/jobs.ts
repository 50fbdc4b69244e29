import { getJobs, postJob } from "@amigo/contract/jobs";
import { api } from "./api";
import { reads, sends } from "./request";

export const { useJobsQuery, useRunJobMutation } = api.injectEndpoints({
  endpoints: (build) => ({
    jobs: reads(build, getJobs, { providesTags: ["house"] }),
    runJob: sends(build, postJob, {
      of: (name: string) => ({ params: { name } }),
      invalidatesTags: ["house"],
    }),
  }),
});
