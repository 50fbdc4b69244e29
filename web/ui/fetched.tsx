import { use, useEffect, type ComponentType, type ReactNode } from "react";

/** Under which name the window remembers that it was loaded again for a part that could not be fetched. */
const LOADED_AGAIN = "amigo loaded again for";

/** A component whose code comes when it is first shown, or before, when `load` is called. */
export interface Fetched<Props> {
  (props: Props): ReactNode;
  load(): Promise<unknown>;
}

/**
 * Returns a component that is fetched when it is first shown, with its texts and the libraries that only it needs; what was fetched
 * before is shown at once. Where it can't be fetched, as its file went when Amigo was updated, the page is loaded once again
 * and knows the new files.
 */
export function fetched<Name extends string, Props extends object>(
  load: () => Promise<Record<Name, ComponentType<Props>>>,
  name: Name,
): Fetched<Props> {
  let component: ComponentType<Props> | undefined;
  let coming: Promise<ComponentType<Props>> | undefined;
  const fetchIt = async (): Promise<ComponentType<Props>> => {
    try {
      component = (await load())[name];
      if (sessionStorage.getItem(LOADED_AGAIN) === name) sessionStorage.removeItem(LOADED_AGAIN);
      return component;
    } catch (failure) {
      coming = undefined;
      throw failure;
    }
  };
  const orLoadAgain = async (): Promise<ComponentType<Props>> => {
    try {
      return await (coming ??= fetchIt());
    } catch (failure) {
      if (sessionStorage.getItem(LOADED_AGAIN) === name) throw failure;
      sessionStorage.setItem(LOADED_AGAIN, name);
      window.location.reload();
      return new Promise<never>(() => undefined);
    }
  };
  let shown: Promise<ComponentType<Props>> | undefined;
  function Shown(props: Props): ReactNode {
    const Component = component ?? use((shown ??= orLoadAgain()));
    return <Component {...props} />;
  }
  return Object.assign(Shown, { load: () => (coming ??= fetchIt()) });
}

/** Fetches what may soon be opened from a page, once the page itself stands. */
export function useSoon(...parts: readonly { load(): Promise<unknown> }[]): void {
  useEffect(() => {
    // What can't be fetched now is asked for again when it is opened.
    for (const part of parts) part.load().catch(() => undefined);
    // The parts of a page are always the same.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
}
