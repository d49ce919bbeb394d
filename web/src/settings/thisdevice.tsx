import { useState } from "react";
import { deviceName, nameDevice } from "../api/index.ts";
import { Row, Section, Sub, TextField } from "../ui/index.ts";

/** What this device is called: it stands with each movement that is entered on it. */
export function ThisDevice() {
  const [name, setName] = useState(deviceName);
  return (
    <Section title="This device">
      <Sub>
        Its name stands with what is recorded on it, such as “Handheld 2”. It is saved on this device.
      </Sub>
      <Row>
        <TextField
          label="Name of this device"
          width="260px"
          maxLength={40}
          value={name}
          onChange={(next) => {
            setName(next);
            nameDevice(next.trim());
          }}
        />
      </Row>
    </Section>
  );
}
