import { lazy, Suspense } from "react";
import type { NewFirmDialogProps, NewItemDialogProps } from "../fields/index.ts";

const NewItem = lazy(async () => ({ default: (await import("../items/index.ts")).NewItemDialog }));
const NewFirm = lazy(async () => ({ default: (await import("../firms/index.ts")).NewFirmDialog }));

/** The dialog of a new item, loaded when one is to be made. */
export const NewItemWhenAsked = (props: NewItemDialogProps) =>
  props.code !== null && (
    <Suspense>
      <NewItem {...props} />
    </Suspense>
  );

/** The dialog of a new customer or supplier, loaded when one is to be made. */
export const NewFirmWhenAsked = (props: NewFirmDialogProps) =>
  props.begin !== null && (
    <Suspense>
      <NewFirm {...props} />
    </Suspense>
  );
