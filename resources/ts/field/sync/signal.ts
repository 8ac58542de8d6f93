/**
 * What the parts that send tell the strip: that the server has answered, and that something has arrived
 * there.
 */
type Listener = { answered: () => void; arrived: () => void }
let listener: Listener = { answered: () => undefined, arrived: () => undefined }

export const listen = (to: Listener) => {
  listener = to
}
export const answerCame = () => listener.answered()
export const workArrived = () => listener.arrived()
