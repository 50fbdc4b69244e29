import { lazy, type ComponentType, type LazyExoticComponent } from "react";

/** Under which name the window remembers that it was loaded again for a part that could not be fetched. */
const LOADED_AGAIN = "amigo loaded again for";

/**
 * Returns a component that is fetched when it is first shown, with its texts and the libraries that only it needs. Where it can't
 * be fetched, as its file went when Amigo was updated, the page is loaded once again and knows the new files.
 */
export function fetched<Name extends string, Props>(
  load: () => Promise<Record<Name, ComponentType<Props>>>,
  name: Name,
): LazyExoticComponent<ComponentType<Props>> {
  return lazy(async () => {
    try {
      const component = (await load())[name];
      if (sessionStorage.getItem(LOADED_AGAIN) === name) sessionStorage.removeItem(LOADED_AGAIN);
      return { default: component };
    } catch (failure) {
      if (sessionStorage.getItem(LOADED_AGAIN) === name) throw failure;
      sessionStorage.setItem(LOADED_AGAIN, name);
      window.location.reload();
      return new Promise<never>(() => undefined);
    }
  });
}
