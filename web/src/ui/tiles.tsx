import { decimal, type Reach, tiles } from "@yosegi/core";
import styled, { css } from "styled-components";
import { color } from "./theme.ts";

const state = {
  full: css`
    background: ${color.walnut};
  `,
  hatched: css`
    background: repeating-linear-gradient(135deg, ${color.zelkova} 0 2.5px, transparent 2.5px 5px);
    outline: 1px solid ${color.zelkova};
    outline-offset: -1px;
  `,
  missing: css`
    outline: 1px dashed ${color.lacquer};
    outline-offset: -1px;
  `,
  open: css`
    outline: 1px solid ${color.ink3};
    outline-offset: -1px;
  `,
};

const Strip = styled.div<{ $small: boolean }>`
  display: flex;
  gap: ${({ $small }) => ($small ? "1.5px" : "2px")};
  i {
    display: block;
    flex: none;
    width: ${({ $small }) => ($small ? "8px" : "11px")};
    height: ${({ $small }) => ($small ? "11px" : "18px")};
  }
`;

const Tile = styled.i<{ $state: keyof typeof state }>`
  ${({ $state }) => state[$state]}
`;

export interface TileStripProps {
  /** How many in all, as exact decimal text. */
  wanted: string;
  /** How many are there; null: as many as anybody wants. */
  there: string | null;
  /** How many come in time after these. */
  coming?: string;
  /** The tiles that are neither: nothing covers them, or they are simply not done yet. */
  rest?: "missing" | "open";
  /** What a screen reader hears instead of the tiles. */
  says: string;
  most?: number;
  small?: boolean;
}

/**
 * A strip of tiles: full for there or done, hatched for coming, dashed for missing, outlined for not done yet. Words nearby say
 * what a tile counts.
 */
export function TileStrip({
  wanted,
  there,
  coming = "0",
  rest = "missing",
  says,
  most = 20,
  small = false,
}: TileStripProps) {
  const { full, hatched, missing } = stripOf(wanted, there, coming, most);
  const states = [
    ...Array<"full">(full).fill("full"),
    ...Array<"hatched">(hatched).fill("hatched"),
    ...Array<"missing" | "open">(missing).fill(rest),
  ].map((state, place) => ({ state, place }));
  return (
    <Strip role="img" aria-label={says} $small={small}>
      {states.map((tile) => (
        <Tile key={tile.place} $state={tile.state} />
      ))}
    </Strip>
  );
}

function stripOf(wanted: string, there: string | null, coming: string, most: number) {
  const reach: Reach = there === null ? "no limit" : decimal(there);
  return tiles(decimal(wanted), reach, decimal(coming), most);
}

/** How many units one tile of a strip stands for, as text. */
export function tileSize(wanted: string, most = 20): string {
  return tiles(decimal(wanted), "no limit", decimal(0), most).each.toFixed();
}

const Key = styled.div`
  display: flex;
  gap: 18px;
  flex-wrap: wrap;
  color: ${color.ink2};
  font-size: 13px;
  span {
    display: flex;
    gap: 6px;
    align-items: center;
  }
  i {
    width: 11px;
    height: 15px;
  }
`;

/** What the tiles of a page mean, in words. */
export function TileKey({ words }: { words: Partial<Record<keyof typeof state, string>> }) {
  return (
    <Key>
      {(["full", "hatched", "missing"] as const).map(
        (s) =>
          words[s] && (
            <span key={s}>
              <Tile $state={s} aria-hidden />
              {words[s]}
            </span>
          ),
      )}
    </Key>
  );
}
