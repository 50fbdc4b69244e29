import { configureStore } from "@reduxjs/toolkit";
import { useDispatch } from "react-redux";
import { api } from "./api";

export const store = configureStore({ reducer: { [api.reducerPath]: api.reducer }, middleware: (standard) => standard({ serializableCheck: false, immutableCheck: false }).concat(api.middleware) });

export const useStore = useDispatch.withTypes<typeof store.dispatch>();
