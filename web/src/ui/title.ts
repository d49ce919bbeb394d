import { useEffect } from "react";

// What the page is, and what is open on it: "O-31 · Orders – Yosegi".
const titles = { page: "", open: "" };

const show = () => {
  document.title = [[titles.open, titles.page].filter(Boolean).join(" · "), "Yosegi"]
    .filter(Boolean)
    .join(" – ");
};

/** Titles the browser's tab by the page. */
export function usePageTitle(page: string): void {
  useEffect(() => {
    titles.page = page;
    show();
  }, [page]);
}

/** Titles the tab by the document that is open, as long as it is. */
export function useTitle(open: string): void {
  useEffect(() => {
    titles.open = open;
    show();
    return () => {
      titles.open = "";
      show();
    };
  }, [open]);
}
