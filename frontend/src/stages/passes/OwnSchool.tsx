import { Button } from "@mui/material";
import { useRef } from "react";
import { call, type Schemas, type Sitter } from "../../api/client";
import { useChange } from "../../api/useChange";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Say, Section } from "../../sheet/parts";
import { useNotice } from "../../sitter/notice";

type School = Schemas["School"];

/** A key that no school has yet. */
export function freeKey(wanted: string, taken: readonly string[]): string {
  const root = wanted.slice(0, 34).replace(/-+$/, "");
  for (let n = 1; ; n++) {
    const key = n === 1 ? root : `${root}-${n}`;
    if (!taken.includes(key)) return key;
  }
}

/** Copy a school to change it; bring one from a file; pass one on. */
export function OwnSchool({ sitter, own }: { sitter: Sitter; own: School | undefined }) {
  const settings = sitter.settings.passes;
  const { change } = useChange(sitter, "passes");
  const notice = useNotice();
  const file = useFileUrl(sitter);
  const input = useRef<HTMLInputElement>(null);
  const keep = (school: School, name: string) => {
    const key = freeKey(
      school.key.startsWith("own-") ? school.key : `own-${school.key}`,
      settings.own.map((s) => s.key),
    );
    change({ own: [...settings.own, { ...school, key, name }], school: key }, `Own school: ${name}`);
  };
  const copy = () => {
    call<School>(`/api/schools/${settings.school}`)
      .then((school) => keep(school, `${school.name}, my way`.slice(0, 80)))
      .catch((error: Error) => notice(error.message));
  };
  const bring = (chosen: File) => {
    const form = new FormData();
    form.append("file", chosen);
    call<School>("/api/schools/read", { method: "POST", body: form })
      .then((school) => keep(school, school.name))
      .catch((error: Error) => notice(error.message));
  };
  return (
    <Section title="A school of your own">
      {own ? (
        <>
          <Say quiet>
            Its passes are on the wall: change their order, their numbers and their words there. It belongs to
            this sitter; pass it on as a file.
          </Say>
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            sx={{ mb: 1 }}
            onClick={() =>
              change(
                { own: settings.own.filter((s) => s.key !== own.key), school: "layered-oil" },
                `Remove ${own.name}`,
              )
            }
          >
            Remove this school
          </Button>
        </>
      ) : (
        <>
          <Say quiet>Copy this school to change its passes, or open one from a file.</Say>
          <Button color="inherit" variant="outlined" fullWidth sx={{ mb: 1 }} onClick={copy}>
            Copy it to change it
          </Button>
        </>
      )}
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        aria-label="School file"
        hidden
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          if (chosen) bring(chosen);
          e.target.value = "";
        }}
      />
      <Button
        color="inherit"
        variant="outlined"
        fullWidth
        sx={{ mb: 1 }}
        onClick={() => input.current?.click()}
      >
        Open a school from a file
      </Button>
      <Downloads files={[{ label: "This school as a file", href: file("school.json") }]} />
    </Section>
  );
}
