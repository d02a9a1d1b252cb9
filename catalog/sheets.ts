import s27 from './sheets/beef-tenderloin-side-muscle-off.json'
import s25 from './sheets/beef-tenderloin-traditional.json'
import s26 from './sheets/beef-tenderloin-used-to-the-last.json'
import s12 from './sheets/capon-crown.json'
import s5 from './sheets/chicken-boned-whole.json'
import s1 from './sheets/chicken-boneless-skinless.json'
import s4 from './sheets/chicken-curry-cut.json'
import s0 from './sheets/chicken-eight-pieces.json'
import s6 from './sheets/chicken-leg-rolled.json'
import s3 from './sheets/chicken-saute.json'
import s7 from './sheets/chicken-spatchcock.json'
import s2 from './sheets/chicken-supremes-and-legs.json'
import s23 from './sheets/cod-loins.json'
import s19 from './sheets/dove-breasts.json'
import s9 from './sheets/duck-breasts-and-legs.json'
import s24 from './sheets/flat-fish-four-fillets.json'
import s11 from './sheets/goose-parts.json'
import s10 from './sheets/goose-whole-trussed.json'
import s13 from './sheets/guinea-fowl-halved.json'
import s14 from './sheets/guinea-fowl-halved-boned.json'
import s35 from './sheets/lamb-crown.json'
import s34 from './sheets/lamb-cutlets.json'
import s33 from './sheets/lamb-rack-chine-off.json'
import s32 from './sheets/lamb-rack-chine-on.json'
import s36 from './sheets/mackerel-fillets.json'
import s15 from './sheets/pheasant-six-pieces.json'
import s16 from './sheets/poussin-roulade.json'
import s17 from './sheets/quail-boned.json'
import s29 from './sheets/rib-bone-in-steaks.json'
import s30 from './sheets/rib-boneless-and-back-ribs.json'
import s28 from './sheets/ribeye-boneless-steaks.json'
import s20 from './sheets/round-fish-fillets.json'
import s21 from './sheets/round-fish-portions.json'
import s22 from './sheets/salmon-skinless-portions.json'
import s18 from './sheets/squab-supremes.json'
import s31 from './sheets/top-sirloin-seamed.json'
import s8 from './sheets/turkey-parts.json'

/** Every cut sheet that comes with Fleam, one file each. */
export const catalog: readonly unknown[] = [
  s0,
  s1,
  s2,
  s3,
  s4,
  s5,
  s6,
  s7,
  s8,
  s9,
  s10,
  s11,
  s12,
  s13,
  s14,
  s15,
  s16,
  s17,
  s18,
  s19,
  s20,
  s36,
  s21,
  s22,
  s23,
  s24,
  s25,
  s26,
  s27,
  s28,
  s29,
  s30,
  s31,
  s32,
  s33,
  s34,
  s35,
]
