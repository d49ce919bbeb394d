import { findRoutes, type Hit } from "@yosegi/contract";
import { ScanLine } from "lucide-react";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { call } from "../api/index.ts";
import {
  color,
  focusRing,
  Key,
  radius,
  sayFailed,
  TARGET,
  TOUCH,
  useScans,
  useShortcut,
} from "../ui/index.ts";

/** Where a hit leads. */
function addressOf({ kind, id, text }: Hit): string {
  const code = encodeURIComponent(text);
  switch (kind) {
    case "document":
      return `/stock?document=${code}`;
    case "lot":
    case "serial":
      return `/trace?item=${id}&${kind}=${code}`;
    default:
      return `${PAGE[kind]}/${id}`;
  }
}

/** Where the page of each kind is; a bin leads to what is in it. */
const PAGE = {
  item: "/catalog",
  bin: "/catalog",
  build: "/builds",
  order: "/orders",
  purchase: "/buying",
  shipment: "/shipments",
  return: "/returns",
  "take-apart": "/take-aparts",
  rework: "/reworks",
  "supplier-return": "/supplier-returns",
  round: "/pick",
  count: "/stock/counts",
};

const KIND_WORDS: Record<Hit["kind"], string> = {
  item: "item",
  build: "build",
  order: "order",
  purchase: "purchase order",
  shipment: "shipment",
  return: "return",
  "take-apart": "take-apart of",
  rework: "rework of",
  "supplier-return": "return to",
  round: "pick round of",
  count: "count sheet",
  lot: "lot of",
  serial: "serial of",
  bin: "bin with",
  document: "document",
};

/** Takes a scan or typing; Enter goes where it leads, and asks where that is not one place. */
export function ScanField() {
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState("");
  const [hits, setHits] = useState<Hit[] | null>(null);
  useShortcut("/", "Scan or search", () => input.current?.focus());

  const open = (hit: Hit) => {
    setHits(null);
    setText("");
    input.current?.blur();
    void navigate(addressOf(hit));
  };
  const search = async (typed: string) => {
    if (typed === "") return;
    const answer = await call(findRoutes.find, { query: { text: typed } }).catch((error: Error) => {
      sayFailed(error.message);
      return null;
    });
    if (!answer) return;
    const exact = answer.hits.filter((hit) => hit.exact);
    const places = new Set(exact.map(addressOf));
    const [only] = exact.length > 0 ? exact : answer.hits;
    if (only && (exact.length > 0 ? places.size === 1 : answer.hits.length === 1)) open(only);
    else setHits(answer.hits);
  };
  useScans((code) => {
    setText(code);
    void search(code.trim());
  });
  return (
    <Wrap
      role="search"
      onSubmit={(e) => {
        e.preventDefault();
        void search(text.trim());
      }}
      onBlur={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget)) setHits(null);
      }}
      onKeyDown={(e) => {
        if (e.key === "Escape") {
          setHits(null);
          input.current?.blur();
        }
      }}
    >
      <ScanLine aria-hidden />
      <input
        ref={input}
        aria-label="Scan or search by code, number or name"
        placeholder="Scan or search by code, number or name"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setHits(null);
        }}
        autoComplete="off"
      />
      <Key>/</Key>
      {hits && (
        <Found aria-live="polite">
          {hits.length === 0 && <p>No match for “{text.trim()}”.</p>}
          {hits.map((hit) => (
            <button key={`${hit.kind} ${hit.text} ${addressOf(hit)}`} type="button" onClick={() => open(hit)}>
              <b>{hit.text}</b>
              <span>
                {KIND_WORDS[hit.kind]} {hit.kind === "item" ? "" : "· "}
                {hit.detail}
              </span>
            </button>
          ))}
        </Found>
      )}
    </Wrap>
  );
}

const Wrap = styled.form`
  position: relative;
  flex: 0 1 460px;
  min-width: 0;
  display: flex;
  align-items: center;
  gap: 10px;
  background: ${color.sheet};
  border: 1px solid ${color.line};
  border-radius: ${radius};
  padding: 0 12px;
  min-height: 38px;
  ${TOUCH} {
    min-height: ${TARGET};
    input {
      align-self: stretch;
    }
  }
  &:focus-within {
    ${focusRing}
  }
  > svg {
    width: 17px;
    color: ${color.ink3};
    flex: none;
  }
  input {
    flex: 1;
    min-width: 0;
    border: 0;
    background: none;
    outline: none;
    font: inherit;
    color: inherit;
  }
  input::placeholder {
    color: ${color.ink3};
    opacity: 1;
  }
`;

const Found = styled.div`
  position: absolute;
  top: calc(100% + 4px);
  left: 0;
  right: 0;
  z-index: 10;
  background: ${color.sheet};
  border: 1px solid ${color.line};
  border-radius: ${radius};
  box-shadow: 0 8px 24px rgb(0 0 0 / 0.2);
  p {
    margin: 0;
    padding: 10px 14px;
    color: ${color.ink2};
  }
  button {
    display: flex;
    gap: 12px;
    width: 100%;
    text-align: left;
    padding: 8px 14px;
    border: 0;
    background: none;
    font: inherit;
    color: inherit;
    cursor: pointer;
    ${TOUCH} {
      min-height: ${TARGET};
    }
  }
  button:hover,
  button:focus-visible {
    background: ${color.sunk};
    outline: none;
  }
  span {
    color: ${color.ink2};
  }
`;
