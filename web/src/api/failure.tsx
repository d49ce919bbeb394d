import styled from "styled-components";
import { Refused } from "./call.ts";

const Said = styled.div.attrs({ role: "alert" })`
  margin: 24px;
  padding: 12px 16px;
  max-width: 44em;
  border-left: 5px solid var(--lacquer);
  background: var(--sheet);
`;

/** Says why something could not be read. */
export function Failure({ error }: { error: Error }) {
  return (
    <Said>
      {error.message}
      {error instanceof Refused && error.answer.fields.map((f) => <div key={f.field}>{f.message}</div>)}
    </Said>
  );
}
