import Alert from '@mui/material/Alert'

/** Why something could not be done, each reason by itself. */
export function Said({ lines }: { lines: string[] }) {
  return lines.map((line) => (
    <Alert key={line} severity="error" variant="outlined">
      {line}
    </Alert>
  ))
}
