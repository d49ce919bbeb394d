import { type FormRefusal, useFormat } from "../ui/index.ts";

/** Which parts are too little, each with what is needed and what there is. */
export function Shorts({ shorts = [] }: Pick<FormRefusal, "shorts">) {
  const format = useFormat();
  return shorts.map((short) => (
    <div key={short.item}>
      {short.name}: {format.amount(short.needed)} needed, {format.amount(short.there, short.unit)} in stock
    </div>
  ));
}
