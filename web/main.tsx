import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { BrowserRouter } from "react-router";
import { isForMembers } from "./app/isForMembers";
import { beginIn, languageHere } from "./texts/staff";
import "./app/style.css";

const root = document.getElementById("root");
if (root === null) throw new Error("the page has no root");

/** Fetches the interface in the language in which it is read here, and shows it. Member pages choose their language themselves. */
async function show(into: HTMLElement): Promise<void> {
  if (!isForMembers(window.location.pathname))
    await beginIn(languageHere()).catch(() => beginIn("en"));
  const [{ App, begin }, { store }] = await Promise.all([
    import("./app/App"),
    import("./data/store"),
  ]);
  // What can't be fetched here is asked for again when it is shown.
  await begin().catch(() => undefined);
  createRoot(into).render(
    <StrictMode>
      <Provider store={store}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </Provider>
    </StrictMode>,
  );
}

void show(root);
