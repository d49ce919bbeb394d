import { type BuildSheet, LABEL_SHAPES, labelRoutes } from "@yosegi/contract";
import { useState } from "react";
import { Link } from "react-router";
import { FormDialog, inputsOf, wholeNumber } from "../forms/index.ts";
import { Button, Row, Sub, sayDone } from "../ui/index.ts";
import { SHAPE_WORDS } from "./words.ts";

interface LabelsDraft {
  shape: (typeof LABEL_SHAPES)[number];
  copies: string;
}

const In = inputsOf<LabelsDraft>();

/** Puts labels for what was finished into the label tray. */
export function LabelsButton({ build }: { build: BuildSheet }) {
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Button onPress={() => setAsking(true)}>Labels</Button>
      <FormDialog
        title={`Labels for ${build.number}`}
        isOpen={asking}
        onClose={() => setAsking(false)}
        width="460px"
        save="Add to label tray"
        more={<Link to="/labels">Open the tray</Link>}
        route={labelRoutes.makeLabels}
        begin={{ shape: "code 128", copies: "" }}
        params={{ id: build.id }}
        body={({ shape, copies }: LabelsDraft) => ({ shape, copies: wholeNumber(copies) })}
        done={() => sayDone(`Labels for ${build.number} added to the tray.`)}
      >
        <Sub>
          One for each {build.product.tracking === "serial" ? "serial number" : "unit"}, with the name, the
          code
          {build.product.tracking === "lot" ? ", the lot" : ""} and a code to scan.
        </Sub>
        <Row>
          <In.Choice
            label="Code"
            name="shape"
            width="190px"
            options={LABEL_SHAPES.map((value) => ({ value, label: SHAPE_WORDS[value] }))}
          />
          <In.Amount
            label="Copies"
            name="copies"
            width="150px"
            placeholder={build.product.tracking === "serial" ? "1" : "one per unit"}
          />
        </Row>
      </FormDialog>
    </>
  );
}
