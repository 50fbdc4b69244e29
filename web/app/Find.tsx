import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogPanel,
} from "@headlessui/react";
import { useEffect, useEffectEvent, useState } from "react";
import { useNavigate } from "react-router";
import { may, type Action } from "@amigo/core/access/may";
import { useMe } from "../data/me";
import { useFindQuery } from "../data/accounts";

interface Hit {
  key: string;
  title: string;
  detail: string;
  kind: string;
  to: string;
}

const PLACES: (Hit & { needs: Action })[] = [
  {
    key: "/",
    title: "Board",
    detail: "all classes and their lists",
    kind: "place",
    to: "/",
    needs: "see the board",
  },
  {
    key: "/changes",
    title: "Changes",
    detail: "the open round",
    kind: "place",
    to: "/changes",
    needs: "see rounds",
  },
  {
    key: "/lists",
    title: "All lists",
    detail: "of this season and past ones, to change or export",
    kind: "place",
    to: "/lists",
    needs: "see lists",
  },
  {
    key: "/lists/new",
    title: "Make a list",
    detail: "one of its own",
    kind: "place",
    to: "/lists/new",
    needs: "change lists",
  },
  {
    key: "/house?tab=names",
    title: "Naming workshop",
    detail: "every list's old and new name",
    kind: "place",
    to: "/house?tab=names",
    needs: "see the house",
  },
  {
    key: "/house?tab=seasons",
    title: "Seasons",
    detail: "open the next season",
    kind: "place",
    to: "/house?tab=seasons",
    needs: "see the house",
  },
  {
    key: "/mail?show=private",
    title: "Private lists",
    detail: "people of your own choice",
    kind: "place",
    to: "/mail?show=private",
    needs: "keep private lists",
  },
  {
    key: "/sources",
    title: "Sources",
    detail: "the sheets",
    kind: "place",
    to: "/sources",
    needs: "see sources",
  },
  {
    key: "/intakes",
    title: "Additions",
    detail: "shared sheets, and rows to approve",
    kind: "place",
    to: "/intakes",
    needs: "fill intakes",
  },
  {
    key: "/mail/write",
    title: "Write a mail",
    detail: "to one or several lists",
    kind: "place",
    to: "/mail/write",
    needs: "write to lists",
  },
  {
    key: "/mail",
    title: "Mail",
    detail: "what was sent, and its delivery",
    kind: "place",
    to: "/mail",
    needs: "see posts",
  },
  {
    key: "/reach",
    title: "Reach",
    detail: "which families mail reaches, and which addresses fail",
    kind: "place",
    to: "/reach",
    needs: "see people",
  },
  {
    key: "/mail?show=drafts",
    title: "Drafts",
    detail: "what I am writing, and mail planned for later",
    kind: "place",
    to: "/mail?show=drafts",
    needs: "write to lists",
  },
  {
    key: "/house?tab=mail",
    title: "Mail settings",
    detail: "the queue, digests, keeping, the DNS",
    kind: "place",
    to: "/house?tab=mail",
    needs: "see the house",
  },
  {
    key: "/house",
    title: "Settings",
    detail: "recipes, sites, accounts, tokens, journal",
    kind: "place",
    to: "/house",
    needs: "see the house",
  },
  {
    key: "/mail/held",
    title: "Held mail",
    detail: "what waits for a decision",
    kind: "place",
    to: "/mail/held",
    needs: "see posts",
  },
  {
    key: "/requests",
    title: "Requests",
    detail: "what was asked for beyond the house rules",
    kind: "place",
    to: "/requests",
    needs: "see requests",
  },
  {
    key: "/lists/try",
    title: "Try an address",
    detail: "see what happens to its mail",
    kind: "place",
    to: "/lists/try",
    needs: "try an address",
  },
  {
    key: "/house?tab=rules",
    title: "House rules",
    detail: "what lists may be, and presets",
    kind: "place",
    to: "/house?tab=rules",
    needs: "see the house",
  },
  {
    key: "/house?tab=journal",
    title: "Journal",
    detail: "who did what",
    kind: "place",
    to: "/journal",
    needs: "see the journal",
  },
  {
    key: "/account",
    title: "My account",
    detail: "password, where I am signed in",
    kind: "place",
    to: "/account",
    needs: "manage own account",
  },
];

/** Finds any list, class, person, source or place by the start of its words. Opens with Ctrl or ⌘ and K. */
export function Find({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const me = useMe();
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const q = text.trim();
  const { currentData: found = [], isFetching } = useFindQuery(q, { skip: !open || q === "" });
  const toggle = useEffectEvent((event: KeyboardEvent) => {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "k") return;
    event.preventDefault();
    onOpen(!open);
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => toggle(event);
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
  const words = q.toLowerCase().split(/\s+/);
  const places = PLACES.filter(
    ({ needs, title, detail }) =>
      may(me.role, needs) &&
      words.every((word) =>
        `${title} ${detail}`
          .toLowerCase()
          .split(" ")
          .some((piece) => piece.startsWith(word)),
      ),
  ).sort(
    (a, b) =>
      Number(b.title.toLowerCase().startsWith(q.toLowerCase())) -
      Number(a.title.toLowerCase().startsWith(q.toLowerCase())),
  );
  const hits: Hit[] = [
    ...found.map(({ id, ...hit }) => ({ ...hit, key: `${hit.kind} ${id}` })),
    ...places,
  ];
  const close = (): void => {
    onOpen(false);
    setText("");
  };
  return (
    <Dialog open={open} onClose={close} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
      <div className="fixed inset-0 flex items-start justify-center md:p-4 md:pt-[12vh]">
        <DialogPanel className="w-full overflow-hidden border max-md:h-dvh md:max-w-2xl md:rounded-lg border-hair bg-panel shadow-2xl">
          <Combobox
            onChange={(hit: Hit | null) => {
              if (hit !== null) {
                close();
                void navigate(hit.to);
              }
            }}
          >
            <ComboboxInput
              autoFocus
              aria-label="Find"
              placeholder="Start of a list, class or person …"
              onChange={(event) => setText(event.target.value)}
              onKeyDown={(event) => {
                if (event.key === "Escape") close();
              }}
              className="h-12 w-full border-b border-hair bg-transparent px-4 text-[16px] outline-none"
            />
            <ComboboxOptions static className="max-h-[80dvh] overflow-auto md:max-h-[55vh] py-1">
              {hits.map((hit) => (
                <ComboboxOption
                  key={hit.key}
                  value={hit}
                  className="flex cursor-pointer items-baseline gap-x-3 px-4 py-2 data-focus:bg-petrol-soft"
                >
                  <span className="w-14 shrink-0 text-xs text-ink-3">{hit.kind}</span>
                  <span className="min-w-0">
                    <span className="mr-2.5 font-[600]">{hit.title}</span>
                    <span
                      className={`min-w-0 wrap-anywhere text-ink-2 ${hit.kind === "list" ? "mono" : ""}`}
                    >
                      {hit.detail}
                    </span>
                  </span>
                </ComboboxOption>
              ))}
              {hits.length === 0 && (
                <p role="status" className="px-4 py-6 text-ink-2">
                  {isFetching ? "Looking …" : `Nothing here starts with "${q}". Try fewer letters.`}
                </p>
              )}
            </ComboboxOptions>
          </Combobox>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
