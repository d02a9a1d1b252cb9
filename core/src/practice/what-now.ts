/** A question of what to do, with its answers; exactly one is right. */
export interface WhatNow {
  key: string
  ask: string
  choices: readonly { text: string; why: string; isRight?: boolean | undefined }[]
}

/** What can go wrong at the board, and what to do then. A cut sheet names those that belong to it by their keys. */
export const whatNow: readonly WhatNow[] = [
  {
    key: 'knife-meets-bone',
    ask: 'You are taking a joint apart and the knife meets something hard. What now?',
    choices: [
      { text: 'Lean on the knife until it gives', why: 'It chips bone into the meat, and a knife that slips under force finds a hand.' },
      {
        text: 'Back out, bend the joint and feel for the gap',
        why: 'A joint is cut and a bone is not. The gap lies a few millimetres away.',
        isRight: true,
      },
      { text: 'Fetch the heavy knife', why: 'Heavier breaks more. A joint needs no force.' },
    ],
  },
  {
    key: 'skin-tore',
    ask: 'The skin tears over the breast of a bird that was to stay whole. What now?',
    choices: [
      {
        text: 'Cut this one in parts and take another whole',
        why: 'Filling comes out through a tear and the roll cooks unevenly; in parts nothing is lost.',
        isRight: true,
      },
      { text: 'Turn the tear inward and roll it tighter', why: 'It opens in the heat, where nobody can mend it.' },
      { text: 'Patch it with skin from the neck', why: 'A loose patch slides off as soon as the fat under it melts.' },
    ],
  },
  {
    key: 'core-8-poultry',
    ask: 'Birds come through the door and the core of one reads 8 °C. What now?',
    choices: [
      { text: 'Straight to the coldest shelf', why: 'Chilling them now does not undo the hours that they were warm.' },
      { text: 'Cut them first, while there is still time', why: 'Warm poultry on a board spreads what has grown on it.' },
      {
        text: 'Keep them apart, read two more, write it down and let a lead decide',
        why: '5 °C or below is the usual limit at the door; the house limit and local code decide what goes back.',
        isRight: true,
      },
    ],
  },
  {
    key: 'next-on-the-board',
    ask: 'Raw poultry is done. Lamb that is served pink comes next on the same board. What now?',
    choices: [
      { text: 'Turn the board over', why: 'What dripped is on the bench, the knife and the hands as well.' },
      {
        text: 'Full clean-down first: board, bench, knives, hands',
        why: 'Pink meat is not cooked far enough to make good what poultry leaves behind.',
        isRight: true,
      },
      { text: 'Wipe it with the cloth that is there', why: 'That cloth carries it to the next board too.' },
    ],
  },
  {
    key: 'knife-slides',
    ask: 'The knife slides over the skin and does not bite. What now?',
    choices: [
      { text: 'Stop and steel it, then feel the edge', why: 'A blunt knife costs yield, and it slips.', isRight: true },
      { text: 'Press harder', why: 'Pressing is how a blunt knife slips into the hand that holds.' },
      { text: 'Saw with the tip', why: 'It leaves a ragged face and gouges what is under it.' },
    ],
  },
  {
    key: 'out-too-long',
    ask: 'You were called away, and what you cut has lain out longer than the house limit. What now?',
    choices: [
      { text: 'Back in the cold, and start the clock again', why: 'The clock does not start again: time out of the cold adds up.' },
      {
        text: 'Say so, write it down, and do what the house limit says',
        why: 'Who decides must know how long it was, and how warm.',
        isRight: true,
      },
      { text: 'Smell it and decide', why: 'What makes people ill has no smell.' },
    ],
  },
  {
    key: 'oyster-left',
    ask: 'A leg is off and a round of meat stays in the hollow of the back. What now?',
    choices: [
      { text: 'Leave it, it goes in the stock', why: 'It is the best bite of the bird and was paid for as leg.' },
      {
        text: 'Take it out whole, and start higher round it on the other side',
        why: 'The oyster belongs on the thigh: the point follows the back before it goes to the joint.',
        isRight: true,
      },
      { text: 'Scrape it off with a spoon', why: 'It comes off in shreds, worth nothing on a plate.' },
    ],
  },
  {
    key: 'fish-is-soft',
    ask: 'The fish is soft, and the knife drags ragged edges. What now?',
    choices: [
      { text: 'Go on, faster', why: 'It tears further: a soft fish cuts rubbery and ragged.' },
      { text: 'Ice it, and come back to it if there is time', why: 'On ice it firms up, and cuts clean again.', isRight: true },
      { text: 'Freeze it for a quarter of an hour on the bare plate', why: 'The outside freezes and cracks while the middle stays soft.' },
    ],
  },
  {
    key: 'pin-bones',
    ask: 'A fingertip that runs along the fillet catches. What now?',
    choices: [
      { text: 'Cook it: they soften', why: 'Pin bones do not soften in the time a fillet takes.' },
      { text: 'Pull them straight up', why: 'Straight up tears the flesh open.' },
      { text: 'Pull each toward the head end, the way it lies', why: 'The way it grew it comes out without a hole.', isRight: true },
    ],
  },
  {
    key: 'knife-through-skin',
    ask: 'While you skin a fillet the knife comes through the skin. What now?',
    choices: [
      {
        text: 'Hold the nub again, lay the knife flatter and pull the skin',
        why: 'The knife stays still and flat: it is the skin that moves.',
        isRight: true,
      },
      { text: 'Push the knife faster', why: 'It cuts through again a hand further on.' },
      { text: 'Turn the edge up', why: 'That leaves flesh on the skin, and that is yield.' },
    ],
  },
  {
    key: 'mackerel-warm',
    ask: 'Mackerel stood on the ramp for an hour in the sun. It smells of nothing. What now?',
    choices: [
      { text: 'Cook it through', why: 'Heat does not take histamine away again.' },
      {
        text: 'Refuse it, and write down the temperature',
        why: 'Histamine forms in the warm, has no smell, and stays whatever is done to the fish.',
        isRight: true,
      },
      { text: 'Ice it and use it first', why: 'Ice stops more of it. What is there stays.' },
    ],
  },
  {
    key: 'fish-served-raw',
    ask: 'Someone asks for this fish raw, as a starter. What now?',
    choices: [
      { text: 'Fresh from the boat is fine', why: 'Freshness says nothing about parasites.' },
      {
        text: 'Only fish that was frozen as local code asks, with its record',
        why: 'Freezing as the rule says is what kills parasites. Not for children, the elderly or who is pregnant.',
        isRight: true,
      },
      { text: 'Slice it thin and look', why: 'Most are too small or too deep to be seen.' },
    ],
  },
  {
    key: 'core-8-fish',
    ask: 'Fish comes in on melted ice and reads 8 °C. What now?',
    choices: [
      { text: 'Ice it again and go on', why: 'The hours in the warm stay, and with mackerel kinds so does histamine.' },
      {
        text: 'Keep it apart, write the reading down and let a lead refuse it',
        why: 'Fish belongs on ice; the house limit and local code decide.',
        isRight: true,
      },
      { text: 'Fillet it at once', why: 'Warm flesh tears, and time on the board warms it more.' },
    ],
  },
  {
    key: 'red-on-silverskin',
    ask: 'A strip of silverskin comes off with red on its back. What now?',
    choices: [
      {
        text: 'Turn the edge up against the skin and hold the strip tight',
        why: 'Red on the strip is steak in the stockpot.',
        isRight: true,
      },
      { text: 'Go slower with the edge down', why: 'The edge still runs into the meat, only longer.' },
      { text: 'Take wider strips', why: 'A wide strip bends round the muscle and the knife dives in.' },
    ],
  },
  {
    key: 'steak-too-light',
    ask: 'A steak that should weigh 180 g weighs 150 g. What now?',
    choices: [
      { text: 'Put it between two heavy ones', why: 'A guest gets one steak and not the mean of three.' },
      { text: 'Cut the next one at 210 g', why: 'Then two are wrong.' },
      {
        text: 'Lay it to the smaller cuts, and cut the next a little thicker',
        why: 'Toward the thin end the same weight is a thicker slice.',
        isRight: true,
      },
    ],
  },
  {
    key: 'bag-liquid',
    ask: 'There is a cupful of red liquid in the bag. What now?',
    choices: [
      { text: 'Down the drain with it', why: 'It was paid for by weight: unweighed, it looks as if you had lost it.' },
      {
        text: 'Weigh it, and write down if it is more than usual',
        why: 'More than a few percent says something of how it was kept, and is a claim.',
        isRight: true,
      },
      { text: 'Soak the trim in it to keep its date', why: 'It keeps the colour. The date does not move.' },
    ],
  },
  {
    key: 'bonded-rare',
    ask: 'A guest wants the rolled and bonded piece rare. What now?',
    choices: [
      { text: 'Sear it well outside, that is where germs sit', why: 'What was outside is now inside the roll.' },
      {
        text: 'Not this one: it is cooked as ground meat is',
        why: 'The outside was folded in: 71 °C in common guidance, with poultry 74 °C; the house figure and local code decide.',
        isRight: true,
      },
      { text: 'Only if it was bonded today', why: 'Time does not change what was folded in.' },
    ],
  },
  {
    key: 'open-the-bag',
    ask: 'A whole muscle lies tight in its bag. How is it opened?',
    choices: [
      { text: 'One long cut down the top', why: 'A slash through the film is a slash through a steak.' },
      { text: 'Lift the film away from the meat and cut at the end', why: 'There is no meat under the edge there.', isRight: true },
      { text: 'Stab it to let the liquid out', why: 'The hole goes on into the meat.' },
    ],
  },
  {
    key: 'core-8-meat',
    ask: 'Meat comes in and the middle of the box reads 8 °C. What now?',
    choices: [
      { text: 'Into the walk-in, it will come down', why: 'Slowly, and the hours stay.' },
      {
        text: 'Keep it apart, read another, write it down and let a lead decide',
        why: '5 °C or below is the usual limit at the door; the house limit and local code decide.',
        isRight: true,
      },
      { text: 'Trim the outside off', why: 'The reading is of the middle.' },
    ],
  },
  {
    key: 'no-eye',
    ask: 'The last cutlets at the shoulder end have hardly an eye. What now?',
    choices: [
      { text: 'Cut them single like the rest', why: 'A bone with a scrap of fat is not a portion.' },
      {
        text: 'Leave two bones on each, so that they weigh like the rest',
        why: 'Lines are moved to even out weights, and the bones decide where a line can be.',
        isRight: true,
      },
      { text: 'Throw them to the trim', why: 'They are paid for as rack.' },
    ],
  },
  {
    key: 'bone-chips',
    ask: 'The saw or shears leave chips on the cut face. What now?',
    choices: [
      { text: 'Rinse it under the tap', why: 'The spray spreads what is on the meat round the sink.' },
      {
        text: 'Wipe or scrape every chip off, and sweep the board',
        why: 'A chip in a mouth breaks a tooth. Next time wrap the ends first, and shield the eyes.',
        isRight: true,
      },
      { text: 'Leave them, they cook out', why: 'Bone does not cook out.' },
    ],
  },
  {
    key: 'meat-on-bones',
    ask: 'Scraped bones still show strings of meat. What now?',
    choices: [
      { text: 'They burn off in the oven', why: 'They burn black, and are seen on every plate.' },
      {
        text: 'Score the back of the bone and peel the skin off whole',
        why: 'Scored and peeled it comes clean at once, and the strip has a use.',
        isRight: true,
      },
      { text: 'Scrape harder toward the eye', why: 'A slip toward the eye cuts the portion.' },
    ],
  },
]
