import traditional from './sheets/beef-tenderloin-traditional.json'
import usedToTheLast from './sheets/beef-tenderloin-used-to-the-last.json'

/** Every cut sheet that comes with Fleam. */
export const catalog: unknown[] = [traditional, usedToTheLast]
