/** What makes two codes the same code: case and width do not, so "frm-a" cannot be made beside "FRM-A". */
export function codeKey(code: string): string {
  return code.normalize("NFKC").trim().toUpperCase();
}

/** What a search looks through, and how a typed word is made comparable to it: without case or accents. */
export function searchText(...texts: readonly string[]): string {
  return texts.filter(Boolean).join(" ").normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase();
}
