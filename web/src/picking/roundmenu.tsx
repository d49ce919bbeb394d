import { type PickRound, pickingRoutes } from "@yosegi/contract";
import { usePress } from "../api/index.ts";
import { useWorking } from "../people/index.ts";
import { MenuButton, sayDone } from "../ui/index.ts";

/** What can be done with a round as a whole: hand it over, end it. */
export function RoundMenu({ round }: { round: PickRound }) {
  const { people } = useWorking();
  const handOver = usePress(pickingRoutes.handOverRound, (now) =>
    sayDone(`${now.number} is now ${now.picker}'s.`),
  );
  const end = usePress(pickingRoutes.endRound, () => sayDone(`${round.number} ended.`));
  if (round.endedAt !== null) return null;
  const params = { id: round.id };
  return (
    <MenuButton
      label={`Steps of ${round.number}, walked by ${round.picker}`}
      items={[
        ...people
          .filter(({ id }) => id !== round.pickerId)
          .map(({ id, name }) => ({
            id: `person ${id}`,
            label: `Hand over to ${name}`,
            onAction: () => void handOver.run({ params, body: { person: id } }),
          })),
        {
          id: "paper",
          label: "Pick list (PDF)",
          onAction: () => void window.open(`/api/picks/${round.id}/paper`, "_blank", "noreferrer"),
        },
        { id: "end", label: "End the round", onAction: () => void end.run({ params }) },
      ]}
    >
      {round.picker} …
    </MenuButton>
  );
}
