import { Select, useAddress } from "../ui/index.ts";
import { useWorking } from "./working.tsx";

const ANY = "any";

interface PersonFilterProps {
  label: string;
  width: string;
}

/** Narrows a list to what one person is to do; the address says whom. */
export function PersonFilter({ label, width }: PersonFilterProps) {
  const address = useAddress();
  const { people } = useWorking();
  return (
    <Select
      label={label}
      hideLabel
      width={width}
      value={address.get("person") || ANY}
      options={[
        { value: ANY, label: "Anyone" },
        ...people.map((p) => ({ value: String(p.id), label: p.name })),
      ]}
      onChange={(value) => address.set("person", value === ANY ? "" : value)}
    />
  );
}
