import { lazy, Suspense, useState } from "react";
import {
  Button as AriaButton,
  Header,
  Menu,
  MenuItem,
  MenuSection,
  MenuTrigger,
  Popover,
  Separator,
} from "react-aria-components";
import styled from "styled-components";
import {
  choice,
  choices,
  color,
  focusRing,
  TARGET,
  THEME_CHOICES,
  type ThemeChoice,
  TOUCH,
} from "../ui/index.ts";
import { useWorking } from "./working.tsx";

const THEME_WORDS: Record<ThemeChoice, string> = { system: "System", light: "Light", dark: "Dark" };

/** Who is working, at the top right: choose another, add somebody, or change how it looks. */
export function PersonMenu({
  theme,
  onTheme,
  onScanGun,
}: {
  theme: ThemeChoice;
  onTheme: (theme: ThemeChoice) => void;
  /** Takes the scan gun out, or puts it away. */
  onScanGun: () => void;
}) {
  const { person, people, choose } = useWorking();
  const [adding, setAdding] = useState(false);
  return (
    <>
      <MenuTrigger>
        <Trigger aria-label={`Signed in as ${person?.name ?? "nobody"}. Switch`}>
          <Badge aria-hidden>{initials(person?.name ?? "?")}</Badge>
          {person?.name ?? "Not selected"}
        </Trigger>
        <Sheet placement="bottom end">
          <Menu aria-label="Who is working">
            <MenuSection
              selectionMode="single"
              selectedKeys={person ? [`person-${person.id}`] : []}
              onSelectionChange={(keys) => {
                for (const key of keys) choose(Number(String(key).slice("person-".length)));
              }}
            >
              <Heading>Who is working</Heading>
              {people.map((p) => (
                <Choice key={p.id} id={`person-${p.id}`}>
                  {p.name}
                </Choice>
              ))}
            </MenuSection>
            <Choice id="add" onAction={() => setAdding(true)}>
              Add person …
            </Choice>
            <Choice id="scan gun" onAction={onScanGun}>
              Scan gun
            </Choice>
            <Line />
            <MenuSection
              selectionMode="single"
              selectedKeys={[theme]}
              onSelectionChange={(keys) => {
                for (const key of keys) {
                  const next = THEME_CHOICES.find((t) => t === key);
                  if (next) onTheme(next);
                }
              }}
            >
              <Heading>Appearance</Heading>
              {THEME_CHOICES.map((t) => (
                <Choice key={t} id={t}>
                  {THEME_WORDS[t]}
                </Choice>
              ))}
            </MenuSection>
          </Menu>
        </Sheet>
      </MenuTrigger>
      {adding && (
        <Suspense>
          <PersonDialog open="new" onClose={() => setAdding(false)} onSaved={({ id }) => choose(id)} />
        </Suspense>
      )}
    </>
  );
}

const PersonDialog = lazy(async () => ({ default: (await import("./persondialog.tsx")).PersonDialog }));

function initials(name: string): string {
  const words = name.trim().split(/\s+/);
  const letters = words.length > 1 ? `${words[0]?.[0] ?? ""}${words.at(-1)?.[0] ?? ""}` : name.slice(0, 2);
  return letters.toUpperCase();
}

const Trigger = styled(AriaButton)`
  display: flex;
  gap: 9px;
  align-items: center;
  border: 0;
  background: none;
  color: ${color.ink2};
  font: inherit;
  cursor: pointer;
  padding: 4px 6px;
  border-radius: 3px;
  ${TOUCH} {
    min-height: ${TARGET};
  }
  &[data-focus-visible] {
    ${focusRing}
  }
`;

const Badge = styled.span`
  width: 28px;
  height: 28px;
  display: grid;
  place-items: center;
  background: ${color.mulberry};
  color: #2b211a;
  font-weight: 700;
  font-size: 13px;
  clip-path: polygon(50% 0, 100% 25%, 100% 75%, 50% 100%, 0 75%, 0 25%);
`;

const Sheet = styled(Popover)`
  ${choices}
  min-width: 200px;
`;
const Choice = styled(MenuItem)`
  ${choice}
`;
const Heading = styled(Header)`
  padding: 6px 12px 2px;
  font-size: 13px;
  font-weight: 600;
  color: ${color.ink2};
`;
const Line = styled(Separator)`
  border: 0;
  border-top: 1px solid ${color.line};
  margin: 4px 0;
`;
