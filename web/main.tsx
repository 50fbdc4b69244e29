import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { BrowserRouter } from "react-router";
import { App, begin } from "./app/App";
import { store } from "./data/store";
import "./app/style.css";

const root = document.getElementById("root");
if (root === null) throw new Error("the page has no root");
const show = (): void =>
  createRoot(root).render(
    <StrictMode>
      <Provider store={store}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </Provider>
    </StrictMode>,
  );
// What can't be fetched here is asked for again when it is shown.
begin().then(show, show);
