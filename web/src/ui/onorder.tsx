import { Link } from "react-router";

export interface OnOrderProps {
  purchases: readonly {
    id: number;
    number: string;
    stage: string;
    /** What of it is meant: quantity, day. */
    words: string;
  }[];
}

/** Purchase orders for something, each a way to go there; several lines of one stand together. */
export function OnOrder({ purchases }: OnOrderProps) {
  const ids = [...new Set(purchases.map((purchase) => purchase.id))];
  return ids.map((id) => {
    const own = purchases.filter((purchase) => purchase.id === id);
    return (
      <div key={id}>
        <Link to={`/buying/${id}`}>{own[0]?.number}</Link> {own[0]?.stage}
        <small style={{ whiteSpace: "normal" }}>{own.map(({ words }) => words).join(", ")}</small>
      </div>
    );
  });
}
