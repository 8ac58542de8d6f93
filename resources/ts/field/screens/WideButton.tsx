import Button, { type ButtonProps } from '@mui/material/Button'

/** The one thing to do on a screen of the field app: wide, at the bottom, for a wet thumb. */
export const WideButton = (props: ButtonProps) => (
  <Button
    fullWidth
    {...props}
    sx={{
      minHeight: 66,
      fontSize: '1.25rem',
      fontFamily: '"Archivo Variable"',
      fontWeight: 760,
      borderRadius: 2.5,
    }}
  />
)
