import { Link } from "react-router";

export interface NamedProps {
  name: string;
  /** Where the name leads, if anywhere. */
  to?: string;
  /** What else there is to know, the code first; what is not there is left out. */
  more: readonly (string | false | null | undefined)[];
}

/** The cell of a thing: its name, and beneath it its code and what else is worth knowing. */
export function Named({ name, to, more }: NamedProps) {
  return (
    <>
      {to === undefined ? name : <Link to={to}>{name}</Link>}
      <small>{more.filter(Boolean).join(" · ")}</small>
    </>
  );
}

/** One press to where an item is bought on the web; nothing where it is bought otherwise. */
export function WebLink({ address, item }: { address: string; item: string }) {
  if (address === "") return null;
  return (
    <small>
      <a href={address} target="_blank" rel="noreferrer" aria-label={`${item} on the web`}>
        web page
      </a>
    </small>
  );
}
