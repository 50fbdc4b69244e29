import fc from "fast-check";

// A changed line that a property notices is mostly noticed soon; thousands of changes have to be tried.
fc.configureGlobal({ numRuns: 15 });
