import { useMutation, useQueryClient } from "@tanstack/react-query";
import { base, call, send, type Sitter } from "../../api/client";
import { keys } from "../../api/keys";

interface Upload {
  file: File;
  after: number | null;
  wet: boolean;
  drawing: boolean;
  byHand: boolean;
}

/** Taking photographs in: of a file, or with the simulated camera. */
export function useTakeIn(sitter: Sitter, choose: (key: string) => void) {
  const client = useQueryClient();
  const kept = (fresh: Sitter) => {
    client.setQueryData(keys.sitter(sitter.id), fresh);
    const last = fresh.settings.easel.paintings.at(-1);
    if (last) choose(last.key);
  };
  const upload = useMutation({
    mutationFn: ({ file, after, wet, drawing, byHand }: Upload) => {
      const form = new FormData();
      form.append("photo", file);
      if (after !== null) form.append("after", String(after));
      form.append("taken_at", new Date(file.lastModified).toISOString().slice(0, 10));
      form.append("wet", String(wet));
      form.append("drawing", String(drawing));
      form.append("by_hand", String(byHand));
      return call<Sitter>(`${base(sitter.id)}/easel/paintings`, { method: "POST", body: form });
    },
    onSuccess: kept,
  });
  const camera = useMutation({
    mutationFn: (asked: { after: number | null; drawing: boolean; seed: number; faults: string[] }) =>
      send<Sitter>("POST", `${base(sitter.id)}/easel/camera`, asked),
    onSuccess: kept,
  });
  return { upload, camera };
}
