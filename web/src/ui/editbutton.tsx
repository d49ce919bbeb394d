import { Pencil } from "lucide-react";
import { Button } from "./button.tsx";

/** Opens the form of one row. */
export function EditButton({ label, onPress }: { label: string; onPress: () => void }) {
  return (
    <Button look="icon" aria-label={label} onPress={onPress}>
      <Pencil />
    </Button>
  );
}
