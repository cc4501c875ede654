/** What people have, and what becomes of it, as kinds of words: a scene with one of them is understood with all. */

const anyOf = (words: string) => `(?:${words.trim().split(/\s+/).join("|").replaceAll("_", " ")})`;

/** Things of theirs that can be broken, with their plurals. */
export const BELONGING = anyOf(
  `cars? vans? bikes? bicycles? wheels? alloys? rims? tyres? tires? bumpers? paint paintwork bonnet hood boot wings? doors? doorframes? frames?
  gates? gateposts? fences? walls? ceilings? roofs? tiles? windows? panes? floors? floorboards? parquet carpets? rugs? sofas? couch settee tables? chairs? wardrobes?
  chests? cupboards? drawers? worktops? countertops? counters? sinks? baths? bathtub basins? taps? pipes? cables? wires? lines? glass glasses mirrors? screens? lens lenses
  vases? pots? china plates? cups? mugs? teapots? lamps? lights? lids? curtains? blinds? shirts? coats? jackets? jumpers? dress dresses suits? blouses? shoes? boots? handles? hinges?
  lawns? borders? beds? hedges? plants? shrubs? roses? trees? greenhouse conservatory sheds? ponds? patios? drives? driveways? gutters? chimneys? hearth skirting kitchens? bathrooms?
  scalp ears? lips? gums? skin fingers? nails? arms? legs? neck face eyes? nose tongue dog dogs cats? cat laptops? phones? tv television telly pianos? keyboards? keys? locks? letterbox steps? stairs banisters? shelf shelves boxes box furniture
  parcels? packages? ornaments? pictures? paintings? clocks? heirlooms? belongings property house home garage panels? dash dashboard seats? upholstery seals? bricks? brickwork plaster slates?`,
);

/** What was done to it, said as something done. */
export const BROKE = anyOf(
  `broke broken smashed cracked chipped dented dinged scratched scraped scuffed gouged nicked ripped tore torn snapped bent burnt burned scalded singed melted flooded shattered split
  trampled crushed squashed flattened wrecked ruined damaged stained kerbed clipped bashed pranged punctured destroyed trashed mangled bleached shrank shrunk warped fried`,
);

/** Traces that it leaves. */
export const TRACE = anyOf(
  `scratch scratches dents? dings? chips? cracks? holes? burns? tears? scuffs? scuff_marks? gouges? blisters? bruises? cuts? scars? stains? marks? dings? puncture`,
);

/** What work is done on, for how it turned out. */
export const WORKED_ON = anyOf(
  `hair haircut cut trim perm colou?r highlights? balayage fringe bangs layers? extensions? brows? eyebrows? lashes nails? gel polish manicure pedicure wax tan
  bouquets? flowers? roses? lilies tulips? arrangements? wreaths? plants? lawns? gardens? hedges? trees? patios? crowns? fillings? tooth teeth dentures? veneers? braces? smile glasses lenses specs contacts
  boilers? heating radiators? showers? taps? toilets? pipes? leaks? drains? gutters? roofs? chimneys? stoves? fires? fireplaces? cars? vans? engines? brakes? gears? gearbox clutch steering exhaust aircon ac bikes? chains? wheels? tyres? suspension
  pianos? upright notes? pitch keys? strings? sockets? lights? switch switches fuses? wiring electrics locks? doors? windows? shelves shelf walls? floors? tiles? tiling grout paint paintwork wallpaper kitchens? bathrooms? fences? gates? decking
  carpets? sofas? curtains? suits? dress dresses shirts? coats? stains? marks? repairs? fix work job finish results? soles? heels? zips? hems? screens? laptops? phones? batter(?:y|ies)
  knees? backs? necks? shoulders? hips? ankles? wrists? ankles? pain posture sleep skin rash dog cat puppy rabbit cake food tax_return accounts returns?`,
);

/** States nobody wants what they paid for to be in. */
export const SPOILT = anyOf(
  `wilted wilting withered drooping droopy drooped limp dead dying brown brittle faded fading patchy wonky uneven lopsided crooked stiff stiffer sore sorer worse cold stone_cold lukewarm broken loose leaking dripping flickering
  sparking rattling squeaking squealing slipping sticking peeling cracked cracking bubbling lifting blurry cloudy too_short too_tight too_long too_loose too_dark botched butchered hacked ruined destroyed wrecked useless unusable out_of_tune flat sharp jammed stuck
  swollen infected bleeding raw ragged frizzy orange green streaky blotchy lumpy stale burnt soggy raw bald mustard misaligned warped rusty damp mouldy`,
);

/** How work fails, said as something it does. */
export const FAILS = anyOf(
  `broke broken_down leaks? leaked drips? dripped flickers? flickered sparks? sparked rattles? rattled squeaks? squeaked squeals? slips? slipped sticks? stuck jams? jammed stalls? stalled cuts_out cut_out packs_up packed_up packed_in packs_in conked_out died quit gave_out
  gave_up blew tripped trips came_off fell_off fell_out slid_out slid_off popped_out came_out came_loose came_away came_undone came_apart fell_apart lifted peeled peeled_off cracked split snapped faded drooped wilted withered collapsed crumbled dropped_off dropped_out went_off wore_off
  failed fails stopped_working hurts? aches? ached throbs? blocked_up clogged overflowed buckled warped wobbles? wobbled`,
);

/** States everybody wants it in. */
export const FINE = anyOf(
  `perfect perfectly beautiful beautifully gorgeous stunning amazing fantastic fabulous wonderful lovely great brilliant superb excellent flawless immaculate spotless even smooth smoothly straight fresh crisp sharp silky shiny sparkling gleaming toasty warm dry bone_dry watertight
  solid sound quiet silent fixed sorted mended healed cured gone better pain_free back_to_normal crystal_clear spot_on on_point good_as_new like_new brand_new natural comfortable healthy strong`,
);

/** How work pleases, said as something it does. */
export const THRIVES = anyOf(
  `works? worked runs? ran sings? purrs? hums? shines? gleams? glows? glides? lasted lasts holds? held fits? fitted sits? draws? burns? flows? starts? closes? opens? turns? changes? drives? rides? sounds? plays? looks? feels? tastes? smells?`,
);

/** Feelings nobody wants to be given. */
export const SMALL = anyOf(
  `stupid small silly foolish dumb thick daft unwelcome guilty uncomfortable awkward embarrassed ashamed humiliated judged rushed ignored invisible worthless tiny inferior bad dreadful dirty like_a_nuisance like_a_bother like_an_idiot like_a_child like_a_number like_a_burden like_an_inconvenience like_rubbish like_dirt in_the_way`,
);

/** Feelings everybody likes to be given. */
export const WELCOME = anyOf(
  `welcome comfortable at_home at_ease safe special valued relaxed calm looked_after cared_for heard understood important confident pampered included better like_family like_a_person like_a_human like_a_queen like_a_king like_royalty listened_to`,
);

/** What people do who are not kind. */
export const UNKIND_ACTS = anyOf(
  `barked snapped snarled yelled shouted screamed swore tutted grunted muttered sighed huffed sneered scoffed smirked sniggered glared scowled growled lectured mocked belittled berated humiliated insulted mumbled shrugged laughed`,
);
