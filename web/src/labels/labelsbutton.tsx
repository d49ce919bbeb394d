import { type BuildSheet, LABEL_SHAPES, routes } from "@yosegi/contract";
import { useState } from "react";
import { Link } from "react-router";
import { useCommand } from "../api/index.ts";
import { Actions, AmountField, Button, Dialog, Form, Row, Select, Sub, sayDone } from "../ui/index.ts";

const SHAPE_WORDS = { "code 128": "Code 128 (bars)", qr: "QR code" };

/** Puts labels for what was finished into the label tray. */
export function LabelsButton({ build }: { build: BuildSheet }) {
  const [asking, setAsking] = useState(false);
  const [shape, setShape] = useState<(typeof LABEL_SHAPES)[number]>("code 128");
  const [copies, setCopies] = useState("");
  const make = useCommand(routes.makeLabels, () => {
    sayDone(`The labels of ${build.number} are in the tray.`);
    setAsking(false);
  });
  return (
    <>
      <Button onPress={() => setAsking(true)}>Labels</Button>
      <Dialog
        title={`Labels for ${build.number}`}
        isOpen={asking}
        onClose={() => setAsking(false)}
        width="460px"
      >
        <Form
          refusal={make.refusal}
          onSubmit={() =>
            void make.run({
              params: { id: build.id },
              body: { shape, copies: copies === "" ? null : Number(copies) },
            })
          }
        >
          <Sub>
            One for each {build.product.tracking === "serial" ? "serial number" : "unit"}, with the name, the
            code{build.product.tracking === "lot" ? ", the lot" : ""} and a code to scan.
          </Sub>
          <Row>
            <Select
              label="Code"
              name="shape"
              width="190px"
              value={shape}
              options={LABEL_SHAPES.map((value) => ({ value, label: SHAPE_WORDS[value] }))}
              onChange={setShape}
            />
            <AmountField
              label="Copies"
              name="copies"
              width="150px"
              placeholder={build.product.tracking === "serial" ? "1" : "one a unit"}
              value={copies}
              onChange={setCopies}
            />
          </Row>
          <Actions>
            <Button look="main" type="submit" isPending={make.busy}>
              Into the label tray
            </Button>
            <Link to="/labels">Open the tray</Link>
          </Actions>
        </Form>
      </Dialog>
    </>
  );
}
