import { MenuItem, TextField } from "@mui/material";
import type { Sitter } from "../../api/client";
import { useLibrary } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Say, Section } from "../../sheet/parts";

type SupportName = NonNullable<Sitter["settings"]["passes"]["support"]>;

/** Which school the plan follows, and what it is painted on. */
export function SchoolSection({ sitter }: { sitter: Sitter }) {
  const settings = sitter.settings.passes;
  const library = useLibrary();
  const { change } = useChange(sitter, "passes");
  const schools = [...(library.data?.schools ?? []), ...settings.own];
  const school = schools.find((s) => s.key === settings.school);
  const used = settings.support ?? school?.support ?? "";
  const support = library.data?.supports.find((s) => s.name === used);
  return (
    <Section title="School">
      <TextField
        select
        fullWidth
        size="small"
        label="School"
        value={school ? settings.school : ""}
        onChange={(e) =>
          change(
            { school: e.target.value },
            `School: ${schools.find((s) => s.key === e.target.value)?.name ?? e.target.value}`,
          )
        }
        sx={{ mb: 1.5 }}
      >
        {schools.map((s) => (
          <MenuItem key={s.key} value={s.key}>
            {s.name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        fullWidth
        size="small"
        label="Painted on"
        value={support ? used : ""}
        onChange={(e) => change({ support: e.target.value as SupportName }, `Painted on ${e.target.value}`)}
      >
        {library.data?.supports.map((s) => (
          <MenuItem key={s.name} value={s.name}>
            {s.name}
          </MenuItem>
        ))}
      </TextField>
      {support && <Say quiet>{support.words}</Say>}
    </Section>
  );
}
