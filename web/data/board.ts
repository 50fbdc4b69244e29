import { getBoard } from "@amigo/contract/board";
import { api } from "./api";
import { reads } from "./request";

export const { useBoardQuery } = api.injectEndpoints({
  endpoints: (build) => ({
    board: reads(build, getBoard, { providesTags: ["board", "rounds"] }),
  }),
});
