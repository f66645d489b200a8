import Box from "@mui/material/Box";

import { type ShownState, StateMark } from "@/ui/state/StateMark";

/**
 * The answers that a row can be given, each also a key of the row: buttons beside it, out of the Tab order,
 * for mouse and glove.
 */
export function AnswerKeys<T extends string>({
  name,
  answers,
  given,
  onGive,
}: {
  /** of the row, for the buttons' own names */
  name: string;
  answers: readonly { key: string; answer: T; words: string; state: ShownState }[];
  given: T | null;
  onGive: (answer: T) => void;
}) {
  return (
    <Box sx={{ display: "flex", gap: "2px" }}>
      {answers.map(({ key, answer, words, state }) => (
        <Box
          key={key}
          component="button"
          tabIndex={-1}
          onClick={() => onGive(answer)}
          aria-label={`${name}: ${words}`}
          aria-pressed={given === answer}
          sx={{
            width: 36,
            height: 36,
            border: 1,
            borderColor: given === answer ? "primary.main" : "divider",
            borderRadius: 1,
            bgcolor: "background.paper",
            cursor: "pointer",
            display: "grid",
            placeItems: "center",
          }}
        >
          <StateMark state={state} size={16} />
        </Box>
      ))}
    </Box>
  );
}
