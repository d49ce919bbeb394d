import { toNestErrors } from "@hookform/resolvers";
import type { AnswerOf, BodyOf, Route } from "@yosegi/contract";
import { type RefObject, useCallback, useEffect, useMemo, useRef, useState } from "react";
import {
  type DefaultValues,
  type FieldValues,
  type Path,
  type Resolver,
  type UseFormReturn,
  useForm,
} from "react-hook-form";
import type { z } from "zod";
import { type Input, useSend } from "../api/index.ts";
import {
  type Claims,
  type Described,
  type FormRefusal,
  type KeptForm,
  textOf,
  useKept,
} from "../ui/index.ts";
import { describeBy } from "./described.ts";
import { isRequiredIn } from "./required.ts";

interface Values<V extends FieldValues> {
  /** What the form begins with: the document as it is saved now, or what a new one begins with. Nothing typed, the form follows it. */
  begin: V;
  /** Of the document that `begin` is; null for a new one. */
  version?: number | null | undefined;
  /** What is typed is kept on this device by this name, until it is saved. */
  keptAs?: string | undefined;
  /** The field that a fault in what is sent is shown at, where it is called otherwise there. */
  fieldOf?: ((path: string, values: V) => string) | undefined;
  /** Puts what is typed onto what somebody else saved meanwhile, such as lines that are not there any more. */
  rebase?: ((mine: V, saved: V) => V) | undefined;
}

export interface SchemaFormSetup<S extends z.ZodType, V extends FieldValues> extends Values<V> {
  schema: S;
  /** What is sent for what is typed. Fields are named as in it, so that what is refused there stands here. */
  body: (values: V) => z.input<S>;
  /** Goes on with what the schema has found good; `version` is of what was changed. */
  send: (body: z.input<S>, version: number | null) => Promise<void> | void;
}

export interface FormSetup<R extends Route, V extends FieldValues> extends Values<V> {
  route: R;
  /** Of the route, such as the id of the document. */
  params?: Readonly<Record<string, number | string>> | undefined;
  body: (values: V) => BodyOf<R>;
  done: (answer: AnswerOf<R>, values: V) => void;
}

/** A form, from what it begins with to what becomes of it. */
export interface FormState<V extends FieldValues> {
  methods: UseFormReturn<V>;
  submit: () => void;
  busy: boolean;
  /** Why what was sent last is refused, by the schema or the server. */
  refusal: FormRefusal | null;
  /** Counts what was refused. */
  refusals: number;
  isRequired: (name: string) => boolean;
  isUnsaved: () => boolean;
  /** Something is typed; what was wrong with the field is not said any more. */
  touch: (name?: string) => void;
  claims: RefObject<Claims>;
  /** When what stands here was typed, where it was left unsaved and is offered again; null for a form that began anew. */
  keptAt: number | null;
  /** Forgets what was typed, and goes on from what is saved. */
  startAgain: () => void;
  /** What somebody else saved meanwhile beside what is typed; null where nobody did. */
  stale: { mine: Described; theirs: Described; onMine: () => void; onTheirs: () => void } | null;
}

interface SchemaForm<V extends FieldValues> extends FormState<V> {
  /** Shows why what was sent is refused. */
  refuse: (refusal: FormRefusal) => void;
  /** What is typed is saved: nothing is kept of it. */
  saved: () => void;
}

interface Kept<V> {
  values: V;
  version: number | null;
}

/** The newest of something that is made anew each time a form is drawn, for what is called later. */
function useLatest<T>(value: T): RefObject<T> {
  const latest = useRef(value);
  useEffect(() => {
    latest.current = value;
  });
  return latest;
}

/** Holds the values of a form and checks them by a schema. */
export function useSchemaForm<S extends z.ZodType, V extends FieldValues>(
  setup: SchemaFormSetup<S, V>,
): SchemaForm<V> {
  const { schema, begin, version = null } = setup;
  const latest = useLatest(setup);
  const store = useKept<Kept<V>>(setup.keptAs ?? null);
  const resolver = useResolver(schema, latest);
  const methods = useForm<V>({
    defaultValues: (store.kept?.draft.values ?? begin) as DefaultValues<V>,
    resolver,
    shouldFocusError: false,
  });
  const claims = useRef<Claims>(new Map());
  const touched = useRef(false);
  const { refusal, refusals, refuse, clear } = useRefusal(methods, touched);
  const { base, keptAt, startAgain, saved } = useBase(methods, setup, store);
  // Every field shows whether it is required, and is drawn anew where this is another.
  const isRequired = useCallback((name: string) => isRequiredIn(schema, name), [schema]);
  const goOn = (from: () => void) => {
    clear();
    from();
  };
  const onMine = () => {
    base.current = { ...base.current, version };
    if (setup.rebase) methods.reset(setup.rebase(methods.getValues(), begin) as DefaultValues<V>);
  };
  return {
    methods,
    submit: () => {
      touched.current = false;
      void methods.handleSubmit(
        async (values) => {
          clear();
          await latest.current.send(latest.current.body(values), base.current.version);
        },
        () => refuse(refusalOf(schema, latest.current, methods.getValues())),
      )();
    },
    busy: false,
    refuse,
    saved,
    refusal,
    refusals,
    isRequired,
    isUnsaved: () => touched.current && setup.keptAs === undefined,
    // Now, not when the field is left: that would move what is pressed next from under the pointer.
    touch: (name) => {
      touched.current = true;
      // Clearing draws the whole form anew, which typing in a long one would wait for.
      if (name !== undefined && methods.getFieldState(name as never).error)
        methods.clearErrors(name as never);
    },
    claims,
    keptAt,
    startAgain: () => goOn(startAgain),
    stale:
      refusal?.code === "stale"
        ? {
            mine: describeBy(claims.current, methods.getValues()),
            theirs: describeBy(claims.current, begin),
            onMine: () => goOn(onMine),
            onTheirs: () => goOn(startAgain),
          }
        : null,
  };
}

/** Checks what is typed as it would be sent. */
function useResolver<S extends z.ZodType, V extends FieldValues>(
  schema: S,
  latest: RefObject<SchemaFormSetup<S, V>>,
): Resolver<V> {
  return useMemo(
    () => async (values, _, options) => {
      const { fields } = refusalOf(schema, latest.current, values);
      if (fields.length === 0) return { values, errors: {} };
      // The first fault of a field is the one that is said.
      const errors = Object.fromEntries(
        [...fields].reverse().map(({ field, message }) => [field, { type: "schema", message }]),
      );
      return { values: {}, errors: toNestErrors(errors, options) as never };
    },
    [schema, latest],
  );
}

/** Why what was sent last is refused; what was refused is still only in the form. */
function useRefusal<V extends FieldValues>(methods: UseFormReturn<V>, touched: RefObject<boolean>) {
  const [refused, setRefused] = useState<{ refusal: FormRefusal | null; times: number }>({
    refusal: null,
    times: 0,
  });
  return {
    refusal: refused.refusal,
    refusals: refused.times,
    refuse: (refusal: FormRefusal) => {
      for (const { field, message } of refusal.fields)
        methods.setError(field as never, { type: "refused", message });
      touched.current = true;
      setRefused(({ times }) => ({ refusal, times: times + 1 }));
    },
    clear: () => setRefused(({ times }) => ({ refusal: null, times })),
  };
}

const isBlank = (value: unknown): boolean => value === "" || value === null || value === undefined;

/** What a form began with: followed while nothing is typed, kept on the device with what is typed. */
function useBase<S extends z.ZodType, V extends FieldValues>(
  methods: UseFormReturn<V>,
  { begin, version = null, keptAs }: SchemaFormSetup<S, V>,
  store: KeptForm<Kept<V>>,
) {
  const { kept } = store;
  const base = useRef<Kept<V>>({ values: begin, version: kept ? kept.draft.version : version });
  const [keptAt, setKeptAt] = useState(kept?.at ?? null);
  const isSaved = useRef(false);
  const latest = useLatest(store);
  const follow = () => {
    base.current = { values: begin, version };
    methods.reset(begin as DefaultValues<V>);
  };
  // What a field begins with may arrive after another one is typed in: it is filled in where nothing stands yet.
  const fillIn = () => {
    const was: Partial<V> = base.current.values;
    for (const name of Object.keys(begin) as Path<V>[]) {
      if (!isBlank(was[name]) || isBlank(begin[name]) || !isBlank(methods.getValues(name))) continue;
      base.current = { ...base.current, values: { ...base.current.values, [name]: begin[name] } };
      methods.setValue(name, begin[name]);
    }
  };
  useEffect(() => {
    const isOther = base.current.version !== version;
    if (keptAt !== null || (!isOther && textOf(begin) === textOf(base.current.values))) return;
    if (textOf(methods.getValues()) === textOf(base.current.values)) follow();
    else if (!isOther) fillIn();
  });
  useEffect(() => {
    if (keptAs === undefined) return;
    return methods.subscribe({
      formState: { values: true },
      callback: ({ values }) => {
        if (isSaved.current) return;
        if (textOf(values) === textOf(base.current.values)) latest.current.forget();
        else latest.current.keep({ values: values as V, version: base.current.version });
      },
    });
  }, [methods, keptAs, latest]);
  return {
    base,
    keptAt,
    startAgain: () => {
      store.forget();
      setKeptAt(null);
      follow();
    },
    saved: () => {
      isSaved.current = true;
      store.forget();
    },
  };
}

/** Why the schema refuses what is typed, by the names of the fields. */
function refusalOf<S extends z.ZodType, V extends FieldValues>(
  schema: S,
  { body, fieldOf }: SchemaFormSetup<S, V>,
  values: V,
): FormRefusal {
  const { error } = schema.safeParse(body(values));
  const named = (path: string) => fieldOf?.(path, values) ?? path;
  return {
    message: "Please check the marked fields.",
    fields: (error?.issues ?? []).map(({ path, message }) => ({ field: named(path.join(".")), message })),
  };
}

/** A form of one command: checked by the schema that the server uses, and sent once. */
export function useCommandForm<R extends Route, V extends FieldValues>({
  route,
  params,
  done,
  ...values
}: FormSetup<R, V>): FormState<V> {
  const form = useSchemaForm({
    ...values,
    schema: route.body,
    send: async (body, version) => {
      await command.run({ params: params ?? {}, body, version } as unknown as Input<R>);
    },
  });
  const command = useSend(route, {
    refused: (refusal) => {
      if (refusal === null) return;
      const typed = form.methods.getValues();
      const fields = refusal.fields.map(({ field, message }) => ({
        field: values.fieldOf?.(field, typed) ?? field,
        message,
      }));
      form.refuse({ ...refusal, fields });
    },
    // Before what it changed is asked again: the next form may begin with that.
    recorded: form.saved,
    done: (answer) => done(answer, form.methods.getValues()),
  });
  return { ...form, busy: command.busy };
}
