import styled from "styled-components";
import { Button, Row, Sub } from "../ui/index.ts";
import { useWorking } from "./working.tsx";

/** The first page on a device: who works on it. It is asked once. */
export function WhoPage() {
  const { people, choose } = useWorking();
  return (
    <Wide>
      <h1>Who are you?</h1>
      <Sub>
        Your name is shown on everything you record from this device. You can switch it at the top right.
      </Sub>
      <Row>
        {people.map((person) => (
          <Button key={person.id} onPress={() => choose(person.id)}>
            {person.name}
          </Button>
        ))}
      </Row>
    </Wide>
  );
}

const Wide = styled.main`
  max-width: 460px;
  margin: 10vh auto;
  padding: 0 20px;
`;
