import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { send, type Schemas } from "../api/client";
import { keys } from "../api/keys";

type Door = Schemas["DoorOut"];

/** Whether this is a studio with a door, and who has come in. */
export const useDoor = () =>
  useQuery({ queryKey: keys.door, queryFn: () => send<Door>("GET", "/api/door"), staleTime: Infinity });

/** Coming in and going out. */
export function useEntering() {
  const client = useQueryClient();
  const enter = useMutation({
    mutationFn: (asked: Schemas["EnterIn"]) => send<Door>("POST", "/api/door", asked),
    onSuccess: (door) => client.setQueryData(keys.door, door),
  });
  const leave = useMutation({
    mutationFn: () => send("DELETE", "/api/door"),
    // Nothing that was seen stays behind for whoever comes next.
    onSuccess: () => window.location.assign("/"),
  });
  return { enter, leave };
}
