/** Stops where this Node is too old to run Amigo. */
export function needNode(): void;
/** Installs Debian packages when something is missing and we may, else says what to install. */
export function needDebian(what: string, packages: readonly string[], isThere: () => boolean): void;
/** Installs the mail programs for the tests. */
export function needMailPrograms(): void;
export function needCalendarPrograms(): void;
/** Installs the npm packages of the lock file, unless just those are there. */
export function needPackages(): void;
/** Builds the pages, unless nothing that they are made from has changed. */
export function needPages(): void;
/** Bundles our programs and the server's threads, unless nothing that they are made from has changed; answers the settings by which a server that runs from its sources finds its threads. */
export function needBundles(): { AMIGO_BUNDLES: string };
