import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { measure, shapeOf, shownArea, shownLength } from '../../shared/form/geodesic'
import { t } from '../../shared/texts'

/** What has been drawn of a line or an area, and the way to draw on. */
export function ShapePart({
  kind,
  shape,
  onDraw,
}: {
  kind: 'line' | 'area'
  shape: ReturnType<typeof shapeOf>
  onDraw: () => void
}) {
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        justifyContent: 'space-between',
        gap: 3,
        mb: 4,
        p: 3,
        border: '2px solid',
        borderColor: 'divider',
        borderRadius: 2,
      }}>
      <span>
        {t(`draw.${kind}`)}
        {shape && (
          <>
            :{' '}
            <b>
              {shape.type === 'Polygon'
                ? shownArea(measure(shape).area ?? 0)
                : shownLength(measure(shape).length ?? 0)}
            </b>
          </>
        )}
      </span>
      <Button variant="outlined" color="inherit" onClick={onDraw}>
        {t('draw.change')}
      </Button>
    </Box>
  )
}
