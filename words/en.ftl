# What Zembric says, in English. A message a code; the parameters of each stand in it as { $name }.
# Numbers, units and lists come set by the language's own rules. Spoken to volunteers at a bench: plain, short, no blame.

as-said = { $text }
one-after-another = { $first } { $then }
at-field = { $field }: { $wrong }
of-group = Group { $group }: { $wrong }
not-judged-yet = It was not judged yet.

## Lengths of time

span-days = { $count ->
    [one] { $count } day
   *[other] { $count } days
}
span-hours = { $count }{ "\u00A0" }h
span-minutes = { $count }{ "\u00A0" }min

## Grades, and how sure

grade-A = Strong
grade-B = Fair
grade-C = Gentle
grade-out = Out
grade-not-yet = Not yet
sure-sure = sure
sure-likely = likely
sure-borderline = borderline

## Findings, and what mends them

finding-swollen = swollen
finding-leaking = leaking
finding-hot = hot
finding-hiss = hiss
finding-dented = dented
finding-punctured = punctured
finding-burnt = burnt
finding-rusted-through = rusted through
finding-vent-open = vent open
finding-torn-wrap = torn wrap
finding-tab-remains = tab remains
finding-corroded-ends = corroded ends
finding-dangerous = dangerous
mend-torn-wrap = put a new wrap on
mend-tab-remains = take the tab remains off
mend-corroded-ends = clean the ends

## Methods, states and warmth, as they stand inside a sentence

resistance-read-ac-1khz = at 1 kHz
resistance-read-dc-10s = 10 s under load
resistance-read-dc-1s = 1 s under load
resistance-read-tester = by a tester
current-set-by-sag = sag
current-set-by-heat = heat
current-set-by-sheet = data sheet
current-set-by-no-sheet = no data sheet
current-set-by-shown = what it has shown
voltage-state-resting = at rest, nothing connected
voltage-state-off-charger = just off the charger
voltage-state-under-charge = while it is charged
voltage-state-under-load = under load
voltage-state-climbing = still moving
voltage-school-strict = strict
voltage-school-usual = usual
voltage-school-thrifty = thrifty
decision-about-over-voltage = over voltage
decision-about-recovery-mark = recovery mark
warmth-warm = warm to the hand
warmth-too-hot = too hot to hold
warmth-cool = cool
heat = { $cell }
heat-in-room = { $cell } in a room of { $room }

## Grounds of a judgement

ground-overruled = A coordinator judged otherwise: { $grade } ({ $why }). The rules say { $by_rules }.
ground-hazard-found = Found { $findings }: it can catch fire.
ground-hazard-warm = It got warm on its own ({ $heat }): it can catch fire.
ground-primary = A primary lithium cell. It must never be charged.
ground-recovery-failed = Recovery failed. A cell that did not come back is never tried again.
ground-fell-back = It fell back to { $voltage } after its recovery.
ground-found-too-low = Rested at { $voltage }; the { $school } school takes nothing found below { $limit }. Copper may have dissolved and can short the cell later.
ground-fell-too-low = Rested at { $voltage }; nothing that fell below { $limit } is trusted again. Copper may have dissolved and can short the cell later.
ground-decided-out = A coordinator decided: out ({ $about }).
ground-lost-its-charge = Was charged, nobody drew from it, and it rested at { $voltage }: it lost its charge by itself.
ground-leaking = Loses { $loss } on the shelf.
loss-by-line = { $loss } ± { $error } a day
loss-by-last = { $loss } ± { $error } a day, by its last voltage against the end of its charge
ground-over-voltage = { $read }, above full ({ $full }) by more than { $beyond }. Ask why before going on.
ground-overcharged = { $read }, above full ({ $full }) by more than { $beyond }. Overcharged this far it can catch fire, even days later.
read-over = { $how ->
    [charged] Charged to { $voltage }
    [on-charger] Read on its charger { $voltage }
   *[rested] Rested at { $voltage }
}
ground-primary-charged = It is a primary cell and was charged: it can burst and burn.
ground-unknown-charged = It was charged while nobody knew its chemistry. Find out what it is before it goes on.
ground-charged-at-zero = It was charged after it read next to nothing: copper may short it inside.
ground-hot-charge = It got hot while it was charged ({ $heat }).
ground-cold-charge = It was charged below 0 °C: lithium plates out in the cold and can short it later.
ground-unknown-family = The chemistry is not known: no charge at all until somebody has set it, and no place in a pack. It may be a primary cell.
ground-recovery-mark = Was found at { $voltage } and recovered: it carries a mark for life and needs a coordinator's yes.
ground-missing = Still missing: { $what }.
missing-inspection = an inspection
missing-resting-voltage = a resting voltage
missing-capacity = a complete capacity
missing-rated-value = a rated value
missing-resistance = a resistance
missing-dc-resistance = a DC resistance
ground-health = { $measured } of { $rated } rated is { $health }; this grade starts at { $limit }.
ground-health-out = { $measured } of { $rated } rated is { $health }; at least { $limit } is asked for.
ground-by-volume = { $measured } in { $volume } is { $density }; this grade starts at { $limit }.
ground-by-volume-out = { $measured } in { $volume } is { $density }; at least { $limit } is asked for.
ground-no-rated = { $ground } No rated value is known, so it is judged by volume.
ground-resistance = { $resistance } ({ $method }) times { $capacity } is { $product }; above { $limit } is out.
ground-resistance-by-tester = { $resistance } ({ $method }) times { $capacity } is { $product }; above { $limit } it is measured again by a better method.
ground-power = It keeps up { $current } (set by { $set_by }), { $rate }; this grade starts at { $limit }.
ground-power-out = It keeps up { $current } (set by { $set_by }), { $rate }; at least { $limit } is asked for.
ground-no-voltage = Its voltage could not be measured here ({ $why }).
ground-no-resistance = Resistance was skipped ({ $why }): at most { grade-B }, and never for high drain.
ground-no-capacity = Capacity could not be measured here ({ $why }). A voltage alone proves nothing, so there is no grade.
ground-marked-for-life = Marked for life: it was found at { $voltage } and recovered. In no pack without a coordinator's yes, each time.
ground-watch = On watch: loses { $loss }.
ground-watch-by-siblings = On watch. Found with { $voltage }, { $below } below the middle of its siblings. Such a cell often leaks.
ground-two-weeks-tell = Once it is full, two weeks at rest tell whether it can be trusted.
ground-siblings-differ-holds = Found with { $voltage }, { $below } below the middle of its siblings. Such a cell often leaks; this one holds its voltage.
ground-siblings-differ-wait = Found with { $voltage }, { $below } below the middle of its siblings. Such a cell often leaks: once it is full, two weeks at rest tell whether it can be trusted.
ground-voltage-rises = Its resting voltage rises, which is no self-discharge: measure again, with the same meter.
ground-claim = The print claims { $claim }; { $cell } hold at most about { $most }. The claim is not used.
ground-never-full = It never reaches full: two charges in a row ended by themselves at { $ended } or so. It is tired, or leaks inside.
ground-nearly-full = Its last charge ended at { $ended }, a little short: the charger, the meter, or a tired cell.
ground-part-run = { $measured } are part of what it holds and no capacity: { $why }. Charge it full and measure again.
part-stopped = it was stopped before its end
part-stopped-high = it stopped at { $at }, far above { $least }
part-not-full = it was not charged to the end before it
ground-stored-full = Rests at { $rests } on the shelf. Kept near { $store } it ages more slowly: use it first, or run it down a little.
ground-runs-differ = The runs that count lie { $apart } apart; their methods allow { $allowed } each way. Was one not full, or is a tester off?
ground-runs-fall = Its runs fall each time: { $runs }. It loses while it is used; rest it, run it once more, and trust the last figure.
ground-charge-differs = { $went_in } went in and { $came_out } came out. Was it empty, and full, each time? A cell that takes more than it gives leaks inside.
ground-resistance-rose = Its resistance rose from { $was } to { $now } by the same method. A contact, the cold, or age: measure it warm and clean once more.
ground-raced-to-full = From { $low } to full in { $minutes }. Its resistance is high or it holds hardly anything: believe its capacity only after a complete discharge.

## Runs beside one another, and loss at rest

left-out-part = a part run: { $why }
left-out-first = the first after a long sleep
left-out-old = older than the last three
left-out-settles = within { $within } after the charge the voltage still settles
left-out-flat = above { $above } iron phosphate still settles
at-reference = About { $capacity } at { $rate } down to { $cut_off }, estimated from { $current } down to { $from_cut_off } with { $resistance }.
rest-rises = It rises, which is no loss: something else changed. Measure again, with the same meter and in the same warmth.
rest-too-early = Too early. A meter with { $resolution } digits can tell { $watch } a day after { $days } days.
rest-nothing-counts = Nothing counts yet.
rest-loss = { $loss } ± { $error } a day over { $readings } readings.
rest-loss-by-last = { $loss } ± { $error } a day by the last reading alone.

## What a cell is good for, and what would settle a doubt

good-for-high = High drain: tools, motors, anything that wants its charge within an hour.
good-for-usual = Usual loads: lights, radios, boxes.
good-for-low = Low drain only: clocks, sensors, small lights.
good-for-unmeasured = Low drain only: its resistance was not measured.
good-for-untold = Its load cannot be told by a tester's two wires.
good-for-single-use = { $load } Only one by one: this house puts no vape cells into packs.
settled-by-readings = Three readings at 1 kHz, each with clean ends; where they lie on both sides of the limit, the worse side counts.
settled-by-meter = A 1 kHz meter with four wires: it sees to 3 %.
settled-by-load = Two voltages and a resistor once more, with more current or a meter with 1 mV digits.
settled-by-log = A run with a log (± 1 %): at { $believed } it would be { $sure } of its grade.
settled-by-nothing = Hardly any measurement: it lies { $apart } from its limit. After three runs the figure stands as it is.

## The next step

step-fire-safe-box = Into the fire-safe box now. Do not charge it, do not cut it, do not carry it in a pocket.
step-out-box = Tape both ends and put it into the out-box. It goes to the recycler.
step-decide-aside = Put it aside; a coordinator decides. { $ground }
came-back-pack = It was in a pack.
came-back-device = It was in use in a device.
came-back-fall = It fell.
came-back-stopped = Its pack was stopped.
step-inspect-back = { $how } Look at it before anything else: swollen, warm, dented, torn wrap?
step-measure-voltage-back = { $how } Measure its voltage with nothing connected, before anything else.
step-look-again-donor = Its sibling { $cell } was found { $findings }. Look at this one once more.
step-look-again-pack = { $cell }, of the same pack, was found { $findings }. Look at this one once more.
step-look-again-place = { $cell }, which lay beside it, was found { $findings }. Look at this one once more.
step-inspect = Look at it before anything touches it: swollen, leaking, dented, torn wrap?
step-repair = First { $mend }; then tick it off.
step-let-settle = { $voltage } was { $state }. Leave it alone, then measure again.
step-measure-voltage = Measure its voltage with nothing connected.
step-measure-voltage-bare = No voltage was reached, and a bare cell has nothing to wake. Clean its ends and measure once more; do not charge it.
step-measure-voltage-wake = No voltage was reached. Measure at the cell's own ends, wake it from a charger, then measure again.
step-recover-watched = Found at { $found }. Bring it up at { $current } at most (C/{ $part }), watching it all the time; it has failed when it is not past { $past } after { $minutes } or warms by more than { $warmer }.
step-recover-beside = Found at { $found }. Bring it up at { $current } at most (C/{ $part }), beside it; it has failed when it is not past { $past } after { $minutes } or warms by more than { $warmer }.
step-rest-after-recovery = Leave it alone for an hour. A recovery has passed only when the voltage stays.
step-measure-after-recovery = It has rested after its recovery. Measure its voltage: that proves it, or ends it.
step-decide-family = Its chemistry is not known. A coordinator finds out what it is before it is charged.
charge-begun-low = { $start } until it has passed { $until }, then at { $then }
step-charge-full = Charge at { $current }, to { $full } and its end. Stay with it.
step-charge = Charge at { $current }, to the end. Stay with it.
step-charge-again-full = Its last charge ended at { $ended }, which is not full. Charge it once more with another charger, at { $current }, to { $full } and its end. Stay with it.
step-charge-again = Its last charge ended at { $ended }, which is not full. Charge it once more with another charger, at { $current }, to the end. Stay with it.
step-rest-after-charge = Let it rest half an hour, then its capacity can be measured.
step-measure-capacity = Measure its capacity, down to { $cut_off }.
step-measure-resistance = Measure its resistance, and say by which method. No meter: two voltages and a resistor do.
step-measure-resistance-better = The tester's own { $testers } is too high to go by, and its holder adds to it. Measure again with a better method.
step-measure-under-load = Its power is judged by a resistance under load. Measure that one too.
step-decide-rated = There is no rule for its size and family. A coordinator sets its rated value.
doubtful-capacity = its capacity
doubtful-resistance = its resistance
doubtful-resistance-under-load = its resistance under load
step-repeat = It lies too near a limit to be sure. Measure { $figure } once more, with the better method.
step-repeat-charged = It lies too near a limit to be sure. Charge it full and measure its capacity once more, with the better method.
step-charge-to-store = Charge at { $current }, to about { $store } for the shelf.
step-shelve = Ready. Put it on the shelf.
step-recheck = Look at it and measure its resting voltage again.
step-keep = Nothing to do. It is looked at again when due.
step-after-rest-measure-capacity = It has rested. Measure its capacity.
step-after-rest-measure-voltage = It had time to settle. Measure its voltage with nothing connected.
step-in-pack = It belongs to pack { $pack }.
step-in-use = It is in use in { $device }.
step-on-tester = A program runs on it in a slot. Leave it there until that is over.
step-hand-over = Waits for the recycler.
step-handed-over = Went to the recycler.
step-watched = Watched at rest: from then on its next voltage says how much it loses.
step-read-at-rest = Watched at rest: its voltage now says how much it loses.

## When which step applies, and what it is done with

when-hazard = a hazard was found, at any time
when-out = primary, out, or decided out
when-decide-aside = something went too far, or it carries a mark from its recovery
when-came-back = it came back, out of a pack, or fell: look, then measure its voltage
when-look-again = a cell of its donor, its pack or beside it was a hazard
when-never-inspected = nobody looked at it yet
when-not-mended = wrap, tab or ends are not mended
when-still-moved = its voltage still moved
when-no-voltage = no resting voltage, or the last one reached nothing
when-recovery-due = it was found in a recovery band and not recovered since
when-just-recovered = recovered less than an hour ago
when-recovery-unproved = recovered, and not measured at rest since
when-family-unknown = its chemistry is not known
when-not-charged = no complete capacity, and not charged to the end since the last discharge
when-just-charged = charged less than half an hour ago
when-no-capacity = no complete capacity
when-no-resistance = no resistance
when-tester-only = only a tester's own resistance, and that too high
when-no-dc-resistance = judged by fitness without a resistance under load
when-no-rated-value = no rule for its size and family
when-borderline = borderline, with fewer than three runs of the figure in doubt
when-empty = nothing charged in since the last discharge
when-not-shelved = not on the shelf
when-recheck-due = on the shelf, and the next look is due
when-shelved = on the shelf
needs-fire-safe-box = gloves and the fire-safe box
needs-tape = tape
needs-coordinator = a coordinator
needs-eyes-gloves-voltmeter = eyes, gloves and a voltmeter
needs-eyes-gloves = eyes and gloves
needs-mending = wraps, cutters, a soft eraser
needs-voltmeter = a voltmeter
needs-low-charger = a charger that can be set low, a thermometer
needs-charger = a charger for its chemistry
needs-tester = a tester, or a resistor and a clock
needs-resistance-meter = a 1 kHz meter, or a resistor and a voltmeter
needs-resistor = a resistor and a voltmeter
needs-better-method = the better method
needs-shelf-box = a shelf box
caution-on-metal = On metal or ceramic, nothing that burns nearby.
caution-awake = Somebody awake beside it, never overnight.
caution-hands-off = Do not charge it, do not cut it.

## A recovery while it runs, what to look for, and in which state a voltage is

recovery-swells = It swells while it was brought up: something inside shorts. Take it off now.
recovery-warmed = It warmed by { $warmer } while it was brought up: something inside shorts. Take it off now.
recovery-warm = It got warm while it was brought up: something inside shorts. Take it off now.
recovery-passed = { $voltage } after { $after }: it came back. Let it rest an hour, then measure: only that proves it.
recovery-too-slow = Only { $voltage } after { $after }; it had to pass { $past } within { $within }.
recovery-hour-over = The hour is over: measure it once more now, that decides.
recovery-measure-now = Measure its voltage now, and feel whether it is warm.
recovery-runs = Runs at { $current } at most. Next look in { $next }.
look-sibling = Its sibling { $cell } was found { $findings }. Is this one?
look-used = It was used { $ago } ago: is it warmer than its neighbours?
look-after-weeks = Last looked at { $ago } ago: swollen, damp or rusty since?
look-wiped = Was it wiped? Vape residue smells sweet as well.
state-it-was = { $ago } ago it was { $state }.
state-charged = It was charged { $ago } ago.
state-run-down = It was run down { $ago } ago.

## What keeps a pack from going on, and what to do

refused-hazard = { $count ->
    [one] { $cells } is a hazard.
   *[other] { $cells } are a hazard.
}
refused-out = { $cells } may not stand in a pack any more: out.
refused-decide = { $count ->
    [one] { $cells } waits for a coordinator.
   *[other] { $cells } wait for a coordinator.
}
refused-not-ready = { $count ->
    [one] { $cells } is not ready.
   *[other] { $cells } are not ready.
}
refused-stale = The plan is stale: a cell is no longer what it was planned as.
refused-not-picked = { $count ->
    [one] { $cells } was not picked.
   *[other] { $cells } were not picked.
}
refused-stopped = The pack is stopped: { $why }
refused-called-back = It is called back: { $why }
refused-to-look = { $count ->
    [one] { $cells } has to be looked at again.
   *[other] { $cells } have to be looked at again.
}
refused-not-commissioned = It was not put to the test since it was built or came back.
refused-no-voltage = { $count ->
    [one] { $cells } has no resting voltage that still holds.
   *[other] { $cells } have no resting voltage that still holds.
}
refused-voltages-apart = The cells rest { $gap } apart, from { $low } to { $high }; { $most } is the most.
refused-red-check = { $count ->
    [one] A check stops it: { $checks }.
   *[other] { $count } checks stop it: { $checks }.
 }
refused-marked = { $count ->
    [one] { $cells } carries a mark for life: recovered from very low.
   *[other] { $cells } carry a mark for life: recovered from very low.
}
refused-recovery-unproved = The recovery of { $cells } is not proved by a reading at rest.
to-do-hazard = Into the fire-safe box; the pack is taken apart.
to-do-red-check = Mend what they say under its checks, or ask a coordinator where it may be waived.
to-do-exchange = Exchange what is out.
to-do-decide = Ask a coordinator to decide.
to-do-next-steps = Do the next step of each first; it stands on the cell's page.
to-do-mend-plan = Mend the plan first.
to-do-pick = Pick each cell by its label, so that none is taken for another.
to-do-take-apart = Take it apart; it goes to nobody.
to-do-settle = Exchange what is bad or take it apart, then say on the first page what became of it.
to-do-look = Look at each and note its voltage; joined in parallel, a cell has that of its group.
to-do-commission = Measure its groups, its polarity, its charge and its load first.
to-do-rest-and-measure = Let each rest { $rest } after its last charge or load, then measure it.
to-do-measure-anew = Measure all before joining, one after another.
to-do-even-voltages = Bring all to the same voltage first: charge each to the same end, let them rest, measure again.
to-do-allow-mark = A coordinator says yes to it for this pack, with a reason, or it is exchanged.
to-do-prove-recovery = Measure from the third day after its charge on.
stopped-by-cell = Cell { $cell }: { $ground }
pack-stopped-already = Pack { $pack } is stopped already. { $why }
way-instead = { $comes } with { $capacity } instead of { $out }

## What is refused at the bench

nobody-overrules = Nobody overrules this. { $ground }
no-recovery-due = No recovery is due for cell { $cell }. { $step }
recovery-runs-already = A recovery of cell { $cell } runs already, started by { $by }. { $state }
cell-not-graded = Cell { $cell } is not graded yet. { $step }
cell-not-graded-not-onto-shelf = Cell { $cell } is not graded yet, so it does not go onto the shelf. { $step }
cell-not-onto-shelf = Cell { $cell } does not go onto the shelf yet. { $step }
cell-out-no-device = Cell { $cell } is out and goes into no device. { $step }
cell-undecided-no-device = Cell { $cell } waits for a coordinator and goes into no device. { $step }
charge-primary = A primary cell must never be charged. Take it off the charger now and watch it from a distance.
charge-unknown-family = Nobody knows its chemistry, so it is not charged at all: it may be a primary cell. Take it off the charger.
charge-of-out = Cell { $cell } is out and must not be charged. { $step }
charge-too-early = Cell { $cell } must not be charged like this. { $step }
charge-at-zero = Cell { $cell } read next to nothing. A cell at 0 V is not charged: measure it again first.
charge-too-high = { $ended } is too high: it is full at { $full }. Stop the charger. If the cell really rests that high, enter it as a voltage.
no-cell-here = There is no cell { $cell } here. Was something else scanned?
list-line-wrong = Line { $line }, { $header }: { $wrong } Nothing was taken in.
search-went-wrong = Something went wrong inside Zembric. Match again, and tell a coordinator if it stays.

## Actors: what is refused

is-for-coordinator = { $what } is for a coordinator. Ask one of them; nothing was changed.
is-for-them-or-coordinator = { $what } is for { $person } or a coordinator.

## Answered: what is refused

idempotency-key-has-8-to-100 = An idempotency key has 8 to 100 characters.
this-idempotency-key-was-used = This idempotency key was used for another request.

## Entries: what is refused

there-is-no-cell-here = There is no cell { $number } here.
cell-went-to-recycler-on = Cell { $number } went to the recycler on { $on }. Is it another number?
say-what-was-mended = Say what was mended: wrap, tab or ends. Nothing else can be repaired.
decide-about-over-voltage-or-recovery = Decide about over-voltage or a recovery mark: go on, or out.
cell-is-not-graded-yet = Cell { $cell } is not graded yet, so there is nothing to judge otherwise.
cell-comes-back-from-use = Cell { $cell } comes back from use: lay it into a tray or a holding box, look at it and measure it first.
say-which-device-in-few-words = Say which device, in a few words.
only-last-entry-of-cell-can = Only the last entry of a cell can be undone. Correct an older one on the cell's page.
hazard-is-never-taken-back = A hazard is never taken back. Leave the cell in the fire-safe box, and look at the one you meant as well.
that-entry-was-corrected-or-taken = That entry was corrected or taken back meanwhile. Nothing was changed; look again.
that-is-no-figure = That is no figure and no finding; it cannot be struck out.
that-reading-was-corrected-or-taken = That reading was corrected or taken back meanwhile. Nothing was changed; look again.
this-entry-for-cell-says = This entry for cell { $cell } says it was typed on { $on }, which cannot be. Set the clock of that device, and type it again.
what-stands-on-paper-was-done = What stands on paper was done before now. Look at the date once more.
donor-of-cell-was-opened-on = The donor of cell { $cell } was opened on { $on }; its cells cannot have been measured before. Look at the date and the number once more.
say-why-in-few-words-characters = Say why in a few words, { $why } characters at most.
cell-is-hazard = Cell { $cell } is a hazard. It stays in the fire-safe box until the recycler takes it; do not measure or charge it.
cell-belongs-to-pack = Cell { $cell } belongs to a pack. Take it out of the pack first.
is-not-shelf-box = { $place } is not a shelf box.
cell-was-given-out-in-pack = Cell { $number } was given out in pack { $pack }. Take the pack back first.
not-something-to-look-for = { $error }: not something to look for.
cell-is-hazard-not-measured = Cell { $cell } is a hazard. It is not measured; it goes into the fire-safe box.

## Readings: what is refused

is-not-way-to-measure-resistance = "{ $method }" is not a way to measure resistance.
cannot-be-between-least-and-most = { $value } { $unit } cannot be: it lies between { $least } and { $most } { $unit }.
resting-voltage-is-measured-with-meter = A resting voltage is measured with a meter.
meters-last-digit-lies-between-0 = A meter's last digit lies between 0.0001 and 0.1 V.
is-not-way-to-measure-capacity = "{ $method }" is not a way to measure capacity.

## Recoveries: what is refused

current-that-is-set-is-above = The current that is set is above zero, in mA.
is-too-much-for-cell-found = { $current } is too much for a cell found this low: { $most } at most. Set it lower before you connect.
no-recovery-of-cell-runs = No recovery of cell { $cell } runs. Start it first, so that its clock is right.

## Identity: what is refused

is-not-chemistry-family = "{ $facts }" is not a chemistry family.
outline-has-at-least-width = An outline has at least a width (or diameter) and a length.
is-print-of-primary-cell-which = "{ $facts }" is the print of a primary cell, which must never be charged. Choose primary.
is-not-one-of = "{ $facts }" is not one of { $allowed }.
cells-are-not-sorted-by = No cell is sorted by "{ $value }" where cells are sorted by { $sort }. Turn the page from the shelf itself.
cannot-be-above-zero-to-most = { $value } { $unit } cannot be: it lies above 0 and is { $most } { $unit } at most.

## Lookup: what is refused

nothing-here-has-number = Nothing here has the number { $named }. Is it from another cafe?
type-number-or-words-of-what = Type a number, or words of what you look for.

## Photos: what is refused

there-are-photos-of-it-already = There are { $most_per_thing } photos of it already; that is enough.
there-is-no-such-photo = There is no such photo.
photo-has-at-most-mb = A photo has at most { $most_upload_bytes } MB.
this-is-no-picture-that-can = This is no picture that can be read; JPEG, PNG and WebP can.
this-picture-has-too-many-pixels = This picture has too many pixels. Take it smaller.

## What if: what is refused

reading-is-above-zero = A reading is above zero.

## Database: what is refused

somebody-was-faster = Somebody was faster: what you wanted to use was just taken. Nothing was changed; look again.

## Donors: what is refused

there-is-no-donor = There is no donor { $number }.
not-for-this-table = { $turned_away }: not for this table. { $instead }
is-not-kind-of-device-here = "{ $code }" is not a kind of device here.
is-not-kind-of-part = "{ $kind }" is not a kind of part.
keep-description-under-characters = Keep the description under { $description } characters.
there-is-no-such-part = There is no such part.
somebody-took-this-part-already = Somebody took this part already. Nothing was changed.
say-in-few-words-what = Say in a few words what it went into, or what was wrong with it.
groups-of-are-cells = { $count } groups of { $parallel } are { $told } cells; this donor has { $known }.
about-1-to-cells-can-be-numbered = 1 to { $largest_tray } cells can be numbered in one go.
cells-do-not-make-groups-of = { $cells } cells do not make groups of { $parallel }.
is-no-family-of-a-donor = "{ $family }" is not a chemistry family.
it-runs-longer-now = It runs longer now than it did before? Look whether the two are swapped.
protection-releases-above-voltage-it-cuts = A protection releases above the voltage it cuts off at.
give-cut-off-for-one-cell = Give the cut-off for one cell, e.g. 2.5 V.
is-not-one-of-the-choices = "{ $value }" is not one of { $choices }.
cannot-be-above-least-to-most = { $value } { $unit } cannot be: it lies above { $least } and is { $most } { $unit } at most.
capacity-in-mah-lies-between-1 = A capacity in mAh lies between 1 and { $cell_most }.

## File store: what is refused

file-of-this-is-missing = The file of this { $what } is missing on the server. Was only the database restored?
has-at-most-mb = A { $what } has at most { $most_bytes } MB.

## Rules: what is refused

say-why-in-few-words = Say why in a few words: whoever comes next will want to know.

## Catalogue: what is refused

there-is-no-such-model = There is no such model in the catalogue any more. Choose another one.
there-is-no-chemistry-in-catalogue = There is no chemistry "{ $code }" in the catalogue.
is-in-catalogue-already = "{ $values }" is in the catalogue already.
there-is-no-in-catalogue = There is no "{ $key }" in the catalogue.
no-such-entry-in-catalogue = There is no "{ $what }" in the catalogue.
say-where-sheet-came-from = Say where the sheet came from; a figure without a source is gossip.
least-number-of-cells-is-above = The least number of cells is above the most.

## Instruments: what is refused

there-is-no-instrument-here = There is no instrument { $number } here.
give-it-name-of-2 = Give it a name of 2 to 60 letters, as it stands on the bench.
is-no-kind-of-instrument = "{ $typed }" is no kind of instrument; there are { $instrument_kinds }.
is-called-already = { $other } is called "{ $name }" already. Give this one another name.
choose-two-different-instruments = Choose two different instruments.
fewer-than-3-cells-were-measured = Fewer than 3 cells were measured with both. Measure more before correcting.
correction-is-in-force-already = A correction is in force already. End it first; readings keep what they were taken with.
this-correction-has-ended-already = This correction has ended already.
m-is-no-more-than-leads = { $value } mΩ is no more than the leads of { $instrument } ({ $lead } mΩ).

## Needs: what is refused

room-in-case-has-three-measures = The room in the case has three measures; leave all of them empty if it does not matter.

## Proposals: what is refused

house-rules-want-one-size = The house rules want one size in a pack. Say which.

## Searches: what is refused

search-takes-1-to-s = A search takes 1 to { $most } s.
there-is-no-such-search = There is no such search.
this-search-has-found-nothing-yet = This search has found nothing yet.

## Earlier readings: what is refused

this-correction-has-ended = This correction has ended. Earlier readings follow only one that is in force.
there-is-no-earlier-reading-without = There is no earlier reading without a correction.
no-earlier-reading-carries-this-correction = No earlier reading carries this correction.
has-no-such-correction = { $instrument } has no such correction.

## Log readings: what is refused

this-log-is-not-read-yet = This log is not read yet, so there is nothing to keep.
there-is-neither-charge-nor-discharge = There is neither a charge nor a discharge in this test; nothing to keep.

## Log traces: what is refused

this-log-has-no-such-test = This log has no such test.

## Logs: what is refused

file-is-empty = The file is empty. Export the log once more.
this-log-is-still-being-read = This log is still being read. Wait, or stop it.
readings-were-kept-from-this-log = Readings were kept from this log. Take them back first, then read it anew.
nothing-is-remembered-for-logs = Nothing is remembered for logs of this kind any more.
is-not-what-column-can-be = "{ $wrong }" is not what a column can be; it is { $roles }.
there-is-no-such-log = There is no such log.
is-not-something-that-can = "{ $key }" is not something that can be said of a log.
it-must-be-above-zero = It must be above zero.
this-log-is-not-being-read = This log is not being read at the moment.

## Methods: what is refused

primary-cell-is-not-measured = A primary cell is not measured by a discharge: it goes to the recycler.

## Packs: what is refused

pack-was-not-built = Pack { $pack } is { $state }; only a pack that was built can be stopped.
say-what-is-wrong = Say what is wrong with it, in { $why } characters at most.
is-in-no-plan = { $number } is in no plan { $pack }; look again.
there-is-no-pack = There is no pack { $number }.
tape-both-ends-of-every-cell = Tape both ends of every cell first; loose cells short one another on the way.
only-out-box-and-fire-safe = Only the out-box and the fire-safe box go to the recycler.

## Plans: what is refused

these-cells-can-no-longer-take = These cells can no longer take part: { $value }. Nothing was reserved.
s-p-needs-groups-of-different = { $series }S{ $parallel }P needs { $series } groups of { $parallel } different cells.
say-what-the-pack-is-for = Say what the pack is for, in 120 characters at most.
is-not-in-pack = { $strangers } is not in pack { $pack }.
can-no-longer-take-part = { $missing } can no longer take part. Look again for what could.
does-not-belong-to-this-pack = { $number } does not belong to this pack. Put it back{ $where } before you take the next one.
was-picked-before = { $number } was picked before; it lies with group { $group_number }.
picked-cell-no-longer-takes-part = { $number } can no longer take part: { $reason }. Mend the plan first.
pack-is-no-plan-any-more = Pack { $pack } is { $state }; only a plan can be picked or mended.
is-more-than-volunteers-may-build = { $size } is more than volunteers may build: { $pack_full_most } and { $pack_energy_most } at most. This is work for a licensed professional.

## Wishes: what is refused

there-is-no-such-wish = There is no such wish.
this-wish-was-met-or-given = This wish was met or given up before.

## Labels: what is refused

had-label-before = { $shown } had a label before. Say why it is printed again: lost, damaged, replaced by a larger one?
there-is-no-such-print = There is no such print.
no-label-for-that-number = Nothing here has the number { $missing }.

## Lists: what is refused

this-file-was-taken = This file was taken in on { $on } by { $person }: { $cells } cells. Taken in again it would double them.
every-cell-of-this-list = Every cell of this list is here already. Nothing was taken in.
list-has-at-most-mb = A list has at most { $most_file_bytes } MB.
list-is-empty = The file is empty.
is-no-text-that-can = { $file_name } is no text that can be read. Save it as CSV in UTF-8.
is-neither-csv-file-nor-spreadsheet = { $file_name } is neither a CSV file nor a spreadsheet (.xlsx).
list-has-columns = The list has { $count } columns; { $given } were said.
is-no-column-of-a-list = "{ $wrong }" is not what a column can be.
is-no-csv-that-can = { $file_name } is no CSV that can be read: { $error }.

## Taking in: what is refused

lies-in-future = { $on } lies in the future. Set the clock that wrote the file.
no-kind-of-device = No kind of device here is judged as "{ $donor_kind }".
v-voltage-below-zero-is-kept = { $value } V: a voltage below zero is kept as what it was, leads swapped.

## People: what is refused

there-is-already-somebody-called = There is already somebody called { $name }.
password-needs-at-least-characters = The password needs at least { $password_least } characters; three or four words are good.
please-sign-in-again = Please sign in again.
there-is-nobody-called = There is nobody called { $name }.
this-link-is-used-up = This link is used up or too old. Ask a coordinator for a new one.
name-has-1-to-40-characters = A name has 1 to 40 characters.
too-many-tries = Too many tries. Wait { $tries_minutes } minutes, or ask a coordinator for a new link.

## Places: what is refused

there-is-no-such-place-any = There is no such place any more. Choose another one.
no-tray-here-has-places = No tray here has { $cells } places. Open the donor in two goes, or make a larger tray.
box-is-full = { $place } is full: { $inside } of { $capacity }. Take another box.
cell-belongs-to-that-pack = Cell { $cell } belongs to pack { $pack }. Take it out of the pack first.
cell-is-hazard-stays-in-its-box = Cell { $cell } is a hazard. It stays in the fire-safe box until the recycler takes it.
cell-is-out = Cell { $cell } is out. It goes into the out-box, not into { $place }.
cell-is-not-out = Cell { $cell } is not out. If it shall go all the same, a coordinator puts it there.
place-has-name-of-1 = A place has a name of 1 to { $name } characters.
there-is-place-called-already = There is a place called "{ $same }" already.
is-not-kind-of-place = "{ $wanted }" is not a kind of place.
tray-has-rows-and-columns-box = A tray has rows and columns, a box has none.
how-many-cells-box-takes = How many cells a box takes is a number above zero; a tray has its places.
tray-is-full = { $place } is full. Take another tray.

## Charging: what is refused

family-primary-cell-must-never = family: a primary cell must never be charged.
full-v-is-v = full_v is { $full } V; { $family } is charged to { $most } V at most.

## Conductors: what is refused

awg-is = awg is { $awg }; gauges run from -3 (0000) to 50.

## Joining: what is refused

ua-v-is-v-below-ub = ua_v is { $ua } V, below ub_v; the higher one comes first.
is-v = { $key } is { $value } V; the table of { $family } runs from { $least } to { $most } V.

## Rules: what is refused

is-no-voltage-school = "{ $voltage_school }" is not one of { $voltage_schools }.
is-no-grade-school = "{ $grade_school }" is not one of { $grade_schools }.
is-no-switch = "{ $key }" is no switch; there are { $switches }.
is-no-choice-of-switch = "{ $choice }" is not one of { $choices }.
special-rule-is-for-one-family = A special rule is for one family or for one size.
is-no-value-of-house-rules = "{ $key }" is no value of the house rules.
must-lie-below = { $meaning } ({ $below }) must lie below { $other } ({ $above }).
is-not-one-number = "{ $strip }" is not one number.

## Donor clues: what is refused

run-times-are-minutes-above-zero = Run times are minutes above zero.
do-not-come-from-lithium-cells = { $volts } do not come from { $cells } lithium cells. Count again; NiMH and alkaline cells are not for Zembric.
k-and-resistors-are-above-zero = K and the resistors are above zero.

## Families: what is refused

full-voltage-needs-family-that-can = A full voltage needs a family that can be charged. Set the family first, or leave it empty.
there-is-no-table-of-voltage = There is no table of voltage over charge for { $family }; there is one for layered oxide and iron phosphate.

## Numbering: what is refused

cannot-be-right = { $compact } cannot be right: its last digit does not fit the others. Read the number once more; a 1 may be a 7, a 0 may be a 6, or two digits are swapped.

## Sizes: what is refused

is-not-size-code = "{ $strip }" is not a size code. Five digits name a cylinder (18650: 18 mm by 65.0 mm), six digits a flat cell (603048: 6.0 by 30 by 48 mm); by caliper it is 13.2 x 35.1.
rated-is-more-than-such-cell = { $rated } rated is more than such a cell usually holds. { $arithmetic } Look at the sheet once more; sent again it is taken.
can-be = "{ $code }" can be { $readings }. Measure it with a ruler.
thickness-is-smallest-of-three = The thickness is the smallest of the three.
rated-cannot-be = { $rated } rated cannot be: { $arithmetic } Look at the sheet and the size once more.
cell-measures-between-and-mm = A cell measures between { $least } and { $most } mm.

## Judge: what is refused

entry-lies-in-future = An entry lies in the future. Check the date and time of this computer.

## Labels: what is refused

there-is-no-label-paper = There is no label paper "{ $key }"; there are { $layouts }.
this-paper-has-places-1-to = This paper has places 1 to { $labels_per_page }.
about-1-to-labels-can-be-printed = 1 to { $most_places } labels can be printed in one go.

## Lists: what is refused

at-most-lines-can-be-taken = At most { $most_lines } lines can be taken in at once; this list has { $rows }.
two-columns-are-taken-for-same = Two columns are taken for the same thing. Choose one of them.
no-column-is-recognised = No column is recognised. Say what at least one of them is.
there-is-no-line-below-header = There is no line below the header.

## Holds: what is refused

no-way-was-found-to-keep = No way was found to keep the cells of each donor apart from one another. Let donors share a group, or unpin cells.
cell-is-pinned-to-group-but = Cell { $key } is pinned to group { $group }, but may not take part.
cell-is-pinned-to-group = Cell { $key } is pinned to group { $group }; there are { $series }.
cells-are-pinned-to-group-which = { $count } cells are pinned to group { $number }, which has room for { $parallel }.
cells-of-one-donor-are-pinned = Cells of one donor are pinned together to group { $number }; donors are kept apart.

## Match: what is refused

target-of-mah-cannot-be = A target of { $target } mAh cannot be; it is above zero.
what-weakest-group-may-give-up = What the weakest group may give up lies between 0 and 100 %.

## Model: what is refused

s-p-cannot-be-matched = { $series }S{ $parallel }P cannot be matched: 1 to { $most_groups } groups of 1 to { $most_parallel } cells can.
cells-are-too-many-at-once = { $count } cells are too many at once; { $most_cells } are matched at most.
cell-is-there-twice = Cell { $key } is there twice.
cell-has-no-capacity = Cell { $key } has no capacity: zero or more is right.
cell-has-resistance-of = Cell { $key } has a resistance of { $resistance }; leave it out where it was not measured.

## Needs: what is refused

cells-in-device-cannot-be = { $count } cells in a device cannot be; 1 to { $most_series } can.
step-up-makes-more-of-less = A step-up makes more of less: its input has to begin below { $out }. Is it a step-down?
step-down-makes-less-of-more = A step-down makes less of more: its input has to reach above { $out }. Is it a step-up?
nothing-is-built-for-it-here = { $turned_away }: nothing is built for it here. { $instead }
device-runs-from-to-more = The device runs from { $least } to more than that; { $most } is not more.
device-that-starts-at-wants-pack = A device that starts at { $least } wants a pack above { $pack_full_most }. This is work for a licensed professional.
number-above-zero-is-needed-here = A number above zero is needed here.

## Plan: what is refused

pack-has-one-group-and-one = A pack has one group and one cell at least.
cells-are-gone-match-again = { $gone } can no longer take part. Match again.
pinned-but-may-not-take-part = Pinned, but may not take part: { $out }. Unpin, or ask for less.
too-few-cells-of-kinds = Too few cells of the kinds that are pinned are there to fill the groups. Unpin some.
cells-of-different-kinds-are-pinned = Cells of different kinds are pinned to group { $group }.

## Entry checks: what is refused

type-number-e-g = Type a number, e.g. { $example }.
is-not-one-number-type-it = "{ $strip }" is not one number. Type it like { $example }.
is-not-number = "{ $strip }" is not a number. Type it like { $example }.
c-cannot-be-read-at-bench = { $degrees } °C cannot be read at a bench: { $least } to { $most } °C can.
is-no-time-charge-takes = { $minutes } is no time a charge takes. Type it like 150.
leads-are-swapped-or-can = { $value }: the leads are swapped, or the can of this cell is its plus. Wire colours prove nothing; turn the leads and measure again.
after-and-nothing-was-charged = { $value } after { $before }, and nothing was charged or discharged in between. Is it the right cell?
capacity-is-above-zero-e-g = A capacity is above zero, e.g. 2310 mAh.
mah-is-next-to-nothing = { $value } mAh is next to nothing. Was it { $meant } mAh?
is-more-than-it-was-rated = { $value } is more than the { $rated_capacity } it was rated at.
after-is-it-right-cell = { $value } after { $capacity }. Is it the right cell?
resistance-is-above-zero-e-g = A resistance is above zero, e.g. 48 mΩ.
m-is-less-than-any-cell = { $value } mΩ is less than any cell has. Was it { $meant } mΩ?
is-no-cells-resistance = { $value } is no cell's resistance. Check the contacts and measure again.
is-very-high = { $value } is very high. Are the contacts clean?
is-less-than-any-cell = { $value } is less than any cell of this size has: { $least } at least. The leads touched each other. Hold them on the cell's two ends and measure again.

## Formulas: what is refused

with-resistor-on-it-reads-v = With the resistor on it reads { $load } V and the cell rests at { $rest } V: under load it must be lower. Is a charger still connected, or are the two swapped?
i2-equals-i1 = i2_a equals i1_a; two different currents are needed.
larger-current-must-pull-voltage-lower = The larger current must pull the voltage lower. Discharge counts positive; are the two swapped?
module-alone-would-have-drawn-mah = The module alone would have drawn { $draw } mAh in { $hours } h, all that the meter counted. Look at hours and draw.
b-has-values-and-has = b has { $count } values and a has { $other }; each cell needs one of both.
cells-say-nothing-about-two-testers = { $count } cells say nothing about two testers; measure at least 3 on both.
every-value-must-be-above-zero = Every value must be above zero.

## Method plans: what is refused

there-is-no-way-to-measure = There is no way to measure called "{ $name }".

## Methods: what is refused

these-values-leave-no-capacity = These values leave no capacity. Look at them once more.
times-and-voltages = { $count } times and { $voltages } voltages; there must be as many of both, at least 2.
times-must-go-up-from-one = The times must go up from one to the next.
voltage-lies-above-0 = A voltage lies above 0 and at most at { $cell_most } V.
subtract-mohm = subtract_mohm: { $off } mΩ is as much as was measured ({ $raw } mΩ).
values-mohm = values_mohm: every value is above zero.
is-no-question-of-this-way = "{ $unknown }" is no question of this way.
say-yes-or-no = { $question } Say yes or no.

## Columns: what is refused

there-is-no-column-of-currents = There is no column of currents. If the cell was emptied through a resistor, say its value in Ohm, leads included: the current then follows from the voltage.
there-is-no-column-of-times = There is no column of times. Say how many seconds lie between two rows.
several-columns-could-be = Several columns could be the { $what }: { $names }. Say which of them belongs to this cell.

## Rows: what is refused

no-row-holds-values-that-cell = No row holds values that a cell can have.

## Table: what is refused

no-rows-of-numbers-were-found = No rows of numbers were found; the file begins with "{ $first }". A log has a line for each moment with time, voltage and current.

## Text: what is refused

this-is-web-page-or-xml = This is a web page or XML under another name, no plain log. Export it as CSV, or open it in a spreadsheet and save it as CSV.
this-is-no-text = This is no text and no log. Export the log as CSV.

## Timeline: what is refused

times-do-not-go = The times do not go on from row to row.
times-run-backward-in-of-rows = The times run backward in { $backward } of { $rows } rows: this is no time.

## Typed amounts: what is refused

what-stands-behind-is-above-zero = What stands behind ± is above zero.
range-goes-from-smaller-to-larger = A range goes from the smaller to the larger: { $high } to { $low }?

## Charging: what is refused

say-where-charge-starts = Say where the charge starts: as charge from 0 to 1, or as a resting voltage.
charge-at-start-is = The charge at the start is { $soc }; it lies between 0 (empty) and 1 (full).
there-are-voltages-and-days = There are { $count } voltages and { $days } days; each reading needs both.
day-cannot-lie-below-zero = A day cannot lie below zero: they count from the end of the charge.
efficiency-is-missing = The efficiency is missing: a load of constant power has a converter. Say 1 for none.

## Electric: what is refused

supply-too-low-for-module = The supply is { $supply } V; a linear module needs more than the { $cell } V of the cell.

## Registry: what is refused

these-values-lead-to-no-number = These values lead to no number for { $meaning }. Look at them once more.

## Logs: what is refused

this-parquet-file-cannot-be-read = This Parquet file cannot be read. Export the log as CSV.

## Pools: what is refused

pool-has-at-most-mb = A pool has at most { $most_bytes } MB.
line-is-not = Line { $line }: "{ $text }" is not { $right }.
file-is-not-text-in-utf = The file is not text in UTF-8. Save it as CSV in UTF-8.
this-is-not-csv = This is not CSV: { $error }.
line-names-no-cell = Line { $line } names no cell.
cell-stands-in-line = Cell { $key } stands in line { $lines } and in line { $line }. Each cell has one line.

## Spreadsheets: what is refused

this-is-no-spreadsheet-that-can = This is no spreadsheet that can be read (.xlsx).
this-spreadsheet-is-too-large-once = This spreadsheet is too large once it is unpacked. Save it as CSV.

## Stories: what is refused

is-not-number-leave-it-out = { $name } is not a number; leave the field out where there is no value.
story-has-at-most-mb = A story has at most { $most_bytes } MB.
story-is-one-json-object = A story is one JSON object with now, cell and events.
events-charge-after-cell-read-next = events[{ $index }]: a charge after the cell read next to nothing. A cell at 0 V is not charged: measure it again first. Where it was charged all the same, say "happened": true.
file-is-not-text-in-utf-8 = The file is not text in UTF-8.
this-is-not-json = This is not JSON: { $msg }, in line { $lineno }.
this-is-nested-too-deeply = This is nested too deeply for a story.

## Catalogue: what is refused

what-it-is-belongs-into = What it is belongs into { $field }.
say-which-version = Say which version of it was seen.
give-it-short-name-that-stays = Give it a short name that stays, e.g. an abbreviation.

## Live: what is refused

too-many-pages-listen-at-once = Too many pages listen at once. This one looks again by itself.

## Papers: what is refused

file-did-not-come-through-whole = The file did not come through whole. Choose it again.

## Places: what is refused

is-box-not-tray = { $place } ({ $number }) is a box, not a tray.

## Requests: what is refused

please-sign-in = Please sign in.

## Analysis: what is remarked

log-several-exports = { $count } exports of different kinds stand in the file; the second begins before line { $line }.
log-counter-differs = The tester's own counter says { $counted } mAh, the logged current makes { $summed } mAh ({ $differs } % apart). The logged current counts.
log-truncated = The file ends in the middle of a line: the log was cut off.
log-unfinished = The discharge ends at { $end_voltage } V in line { $line }, before a cut-off: its capacity is that of a part and is not graded.
log-no-discharge = There is no discharge in this test.
log-no-resistance = The rows lie { $sampling } s apart; that is too far for a resistance.

## Columns: what is remarked

log-guessed-columns = The log has no header. By what the numbers can be, its columns are { $columns }.
log-column = { $place }: { $role }
role-time = time
role-voltage = voltage
role-current = current
role-capacity = capacity
log-more-than-a-cell = The voltage reaches { $stated } V: several cells in series, not one cell.
log-resistor-named = No current column; the lines above name a load of { $ohm_said } Ohm: I = U / R.
log-resistor-column = No current column; the load of { $ohm } Ohm tells the current: I = U / R.

## Rows: what is remarked

log-repeated-header = The header stands in the file again in line { $headers }.

## Table: what is remarked

log-decimal-comma-joined = Decimal commas and commas between the columns were told apart by the header: it names { $count } columns where each line has { $fields } parts.
log-named-values = Each line names its values; read as columns { $labels }.
log-monitor-stamp = The time that the serial monitor wrote before each line is taken as a column.

## Text: what is remarked

log-nul-bytes = { $count } zero bytes stand in the file, from line { $line } on; left out.

## Timeline: what is remarked

log-several-tests = The file holds { $count } separate tests; the second begins in line { $at }.
log-newest-first = The rows run from the newest to the oldest; they were turned round.
log-step-times = The time starts anew with each step; the steps were put one behind the other.
log-signs-differ = The tests of this file do not give a discharge the same sign; each was read by the way its own voltage went.
log-unsigned-current = The current carries no sign; charge and discharge were told by the voltage.

## Logs: what is remarked

log-remembered = Read as somebody said of the last log of this kind.
log-gap = Nothing was logged for { $seconds } before line { $line }; nothing is counted there.
log-gap-bridged = Nothing was logged for { $seconds } before line { $line }; the load went on, { $bridged } are bridged.
log-cut-line = The last line was cut off and is left out: { $example }
log-junk-line = { $count } lines are no rows of numbers and were left out, the first is line { $line }: { $example }
log-no-value = { $count } rows have no number in a column that is needed and were left out, the first is line { $line }.
log-impossible-value = { $count } rows hold values that no cell has, such as { $voltage } and { $current }; they were left out, the first is line { $line }.
log-no-contact = { $count } rows show no voltage: the cell was not in contact. They were left out, the first is line { $line }.
log-swapped-columns = "{ $as_voltage }" runs like a current and "{ $as_current }" like the voltage of a cell; they were read the other way round.
log-guessed-unit = "{ $column }" names no unit; its values are { $why }, so they are read as { $unit }.
log-unit-contradicts = "{ $column }" says { $own }, but its values are { $why }; they are read as { $unit }.
values-around = around { $value }
values-up-to = up to { $value }
log-backward-time = The time runs backward in line { $line }; such rows were left out.
log-clock-set-back = The clock was set back before line { $line }; it is carried on from there.
log-equal-times = { $count } rows carry the time of the row before, the first is line { $line }.
log-remembered-resistor = The last log of this kind was emptied through { $resistor }. This one too?
values-in-steps = in steps of { $value }

## Ways to measure: their traps, how a figure was worked out, what limits it

trap-started_full = Was it charged to the end before?
spoilt-started_full = It was not full at the start: this is the capacity of a part.
trap-ran_out = Did it run down to its cut-off?
spoilt-ran_out = It was stopped early: this is the capacity of a part.
trap-started_empty = Was it emptied to its cut-off before?
spoilt-started_empty = It was not empty at the start: this is the capacity of a part.
trap-ended_full = Was it charged to the end?
spoilt-ended_full = The charge did not end: this is the capacity of a part.
trap-charger_on = Is a charger still connected?
spoilt-charger_on = With a charger connected this measures the charger. Take it off, wait a minute, measure again.
trap-zeroed = Was the meter set to zero with its leads together?
spoilt-zeroed = The meter was not set to zero: its leads are in the figure.
trap-module_alone = Did anything else hang on the module's output?
spoilt-module_alone = What else hung on the output was counted too. Measure again with the cell alone.
worked-as-shown = as shown: { $value }
worked-resistor-clock = { $mean } × { $time } / { $resistor } = { $value }
worked-resistor-log = ∫ U dt / R = { $integral } / { $resistor } = { $value }
worked-counted = { $counted } × { $factor } = { $value }
worked-usb-linear = { $meter } - { $draw } × { $time } = { $value }
worked-usb-switching = { $meter } × { $efficiency } / { $mean } = { $value }
worked-usb-step-up = { $meter } / ({ $efficiency } × { $mean }) = { $value }
worked-two-voltage = { $resistor } × ({ $rest } - { $load }) V / { $load } V = { $value }
worked-two-current = ({ $high } - { $low }) V / ({ $large } - { $small }) A = { $value }
worked-least = least of { $values } = { $least }
worked-less = less { $off } for the { $of } = { $left }
worked-then = { $worked }; { $then }
worked-typed = { $value }
worked-corrected = { $worked }; { $then } = { $value }
worked-trace = ∫ I dt over { $rows } rows
worked-edges = { $edges ->
    [one] ΔU / ΔI { $after } after { $edges } step of current
   *[other] ΔU / ΔI { $after } after { $edges } steps of current
}
adjusted-leads = less { $leads } of { $instrument }'s leads
adjusted-correction = × { $factor }, correction of { $instrument }
through-protection = protection
through-holder = holder
through-leads = leads
through-nothing = leads
limited-by-instrument = the instrument's own ± { $share }
limited-by-method = the method: ± { $share } (house value)
limited-by-digit = the meter's last digit ({ $digit })
limited-by-resistor = the resistor's ± 5 %
limited-by-meter = the meter: ± { $error }
limited-by-holder = two wires in a spring holder: ± { $error } (house value)
caution-not-watched = An estimate: the voltage was not watched. A few voltages over time make it twice as good.
caution-few-voltages = With fewer than 5 voltages the knee at the end is missed.
caution-mah-count = The meter's mAh count here, never its Wh.
caution-through-protection = A protection circuit adds 50 to 80 mΩ; it is in this figure.
caution-through-holder = A holder adds 10 to 40 mΩ; it is in this figure.
caution-through-leads = Leads add a few mΩ; it is in this figure.
caution-blind-meter = One digit of this meter is { $digit } at { $current }: it hardly sees { $value }. Take a smaller resistor for more current, or a meter with a finer last digit.
caution-put-in-again = Take the cell out and put it in again twice: the least of three is the best, contacts only add.
caution-cold-resistance = At { $cell } a resistance is not that of a warm room: about 2 % more for each degree below 25.
caution-cold-capacity = At { $cell } a cell gives less than at 20 °C; compare with care.
adjusted-afterwards = × { $factor }, correction of { $instrument }, afterwards

## House rules: schools and switches, with what speaks for each

voltage-school-why-strict = For: no recovery to supervise, no hidden copper. Against: many cells of unused devices go to waste.
voltage-school-why-usual = For: what data sheets allow with a small current is used. Against: an hour of supervision for each low cell.
voltage-school-why-thrifty = For: saves deeply emptied cells. Against: copper may have dissolved; such cells need a coordinator's yes for ever.
voltage-school-means-strict = Only takes cells found between 3.0 V and full; everything lower is recycled.
voltage-school-means-usual = Recovers cells found between 2.0 and 3.0 V with a small current; below 2.0 V they are recycled.
voltage-school-means-thrifty = Also recovers from 1.5 V, under watch and with a mark for life.
grade-school-means-health = Measured capacity over rated capacity; by volume where no rated value is known.
grade-school-means-bins = Measured capacity by volume of the cell, whatever it was rated at.
grade-school-means-fitness = The worse of the capacity grade and the current the cell can keep up.
switch-pack-sizes = Which cylinder sizes may stand in one pack?
switch-pack-sizes-one = Only one size
switch-pack-sizes-one-why = Holders fit, and cells of one size warm alike.
switch-pack-sizes-any = Any size
switch-pack-sizes-any-why = A group counts by its mAh; more of the shelf finds a use.
switch-pack-models = Which cells may stand in one group?
switch-pack-models-same = The same model
switch-pack-models-same-why = Cells of one model, or of one donor, age alike.
switch-pack-models-near = The same family with near values
switch-pack-models-near-why = Measured values say more than a print.
switch-joining = How are cells joined?
switch-joining-spot-weld = Spot welding
switch-joining-spot-weld-why = Little heat goes into the cell.
switch-joining-solder = Soldering
switch-joining-solder-why = Needs no welder; quick, hot and short, never on the minus end for long.
switch-vape-cells = May vape cells stand in packs?
switch-vape-cells-packs = In packs too
switch-vape-cells-packs-why = Measured like every other cell, they are as good as they measure.
switch-vape-cells-single-use = Only one by one
switch-vape-cells-single-use-why = Thin wraps and unknown makers: nothing in parallel or in series.
switch-pack-board = Does every pack get a board?
switch-pack-board-with = Always with a board
switch-pack-board-with-why = One weak group is driven below its limit unseen without one.
switch-pack-board-without = Single groups may go without
switch-pack-board-without-why = A device that ends in time does its work for 1S.
changed-voltage-school = first voltage: { $before } → { $after }
changed-grade-school = grades: { $before } → { $after }
grade-school-health = health
grade-school-bins = bins
grade-school-fitness = fitness
changed-limit = { $limit }: { $before } → { $after }
limit-is = { $limit } { $value }
changed-special = for { $of }: { $values }
changed-no-special = no rule of its own for { $of }

## What a cell or its donor is

joining-clean = Can be spot welded or put into a holder.
joining-stub = Take the stub off flush, then weld beside the old spots; solder only onto a stub, never onto the can.
joining-wires = Join at the wires: crimp or solder away from the cell, one wire at a time.
joining-soldered = Was heated once: look for a lifted seal, and use a holder rather than the iron again.
usual-plus-wrapped-can = The raised end is plus, the can is minus: under the wrap minus is everywhere.
usual-plus-bare-can = The raised end is plus, the bare can is minus: wrap it before it touches another cell.
usual-plus-flat-can = Many flat metal cans are plus, and the small insulated contact is minus. Measure before you join.
usual-plus-pouch = The print by the tabs tells; the colour of a wire proves nothing. Measure before you join.
turned-away-medical = Medical device
turned-away-medical-instead = Somebody's life may hang on it, and it must not be opened. Its supplier or the clinic takes it back.
turned-away-vehicle = Car, scooter or other vehicle
turned-away-vehicle-instead = Its battery stores enough to burn a house down. It belongs to its maker's service or a licensed workshop.
turned-away-e-bike = E-bike
turned-away-e-bike-instead = Its pack is over what volunteers may open. The dealer takes it back, or a licensed workshop repairs it.
turned-away-flying = Drone or other flying device
turned-away-flying-instead = A pack that gives out in the air falls on people below. Its maker's service takes it back, or a licensed workshop that is trained on it.
turned-away-mains = Anything on the mains
turned-away-mains-instead = What hangs on the mains, solar storage too, is for a licensed workshop or a licensed electrician. Unplug it and leave it closed.

## Which cells may take part in a match

objection-hazard = a hazard
objection-in-a-pack = in a pack
objection-out = out
objection-not-graded = not graded yet
objection-not-on-shelf = not on the shelf
objection-to-charge = to be charged first
objection-not-ready = not ready for the shelf
objection-recovery-unproved = recovered, and not proved by a reading at rest
objection-on-watch = on watch
objection-other-family = another chemistry
objection-other-full-voltage = another full voltage
objection-from-a-vape = from a vape: only one by one, say the house rules
objection-not-here = not here any more
kept-out-banned = left out by hand
kept-out-beyond = weaker, or farther from what is asked: there are more than are looked at at once
kept-out-marked = marked for life: only with a coordinator's yes
kept-out-grade = grade too low
kept-out-estimated = capacity only estimated, or measured under other conditions
kept-out-current = would have to carry more than it may
kept-out-resistance-unknown = resistance not measured by the method of the others
kept-out-capacity = capacity too far from the others
kept-out-resistance = resistance too far from the others
kept-out-voltage = rests at another voltage
group-mixes-bare = Group { $group } mixes bare and protected cells, which end at different voltages.
group-mixes = Group { $group } mixes { $what }, which the rules do not allow.
group-of-one-donor = Group { $group } has several cells of one donor, which are to be kept apart.
different-model = different models
different-size = different sizes
different-any = different donors
milder-all = With all of this together
milder-voltage = Brought to one voltage before joining
milder-banned = With the cells left out by hand
milder-donors-together = With cells of different donors in one group
milder-donors-apart = With several cells of one donor in a group
milder-no-tolerance = Without a tolerance
milder-tolerance = With the tolerance { $tolerance }
tolerance-strict = strict
tolerance-usual = usual
tolerance-relaxed = relaxed
milder-grade = With cells of grade { $grade } too
milder-estimated = With cells whose capacity is only estimated
milder-parallel = With { $parallel } in parallel instead of { $instead }, so that each carries less
milder-models = With different models in one group
way-possible = { $way }: possible.
way-still-missing = { $way }: still { $count } missing.
way-reaches = { $way }: up to { $capacity } could be reached.
left-out-one = { $count } { $why } ({ $cells })
left-out-many = { $count } { $why }
pinned-out = { $cell } ({ $why })
cells-missing = { $needed ->
    [one] { $needed } cell is needed and { $have } may take part
   *[other] { $needed } cells are needed and { $have } may take part
}
cells-missing-kinds = { $have } may take part, but not { $series } groups of one kind each can be made of them.
too-few-cells = { $count ->
    [one] { $needed }; { $count } is missing.
   *[other] { $needed }; { $count } are missing.
}
too-few-of-a-kind = { $count ->
    [one] { $needed } { $count } is missing.
   *[other] { $needed } { $count } are missing.
}
too-few-and-left-out = { $ground } Left out: { $out }.
out-of-reach = Groups of { $target } are out of reach: the weakest group reaches { $reachable }, and no grouping of these cells reaches more. Ask for less, or add stronger cells.
out-of-reach-bound = Groups of { $target } are out of reach: the weakest group reaches { $reachable }, and no grouping can reach more than { $bound }. Ask for less, or add stronger cells.
cells-that-cannot = { $cells }: { $why }.
objection-no-chemistry = without a chemistry: a coordinator says what it is
objection-no-size = without a size: lay a caliper on it and say so on its page
objection-other-size = of another size
there-are-no-such-cells = There is no cell { $cells } here. Look at the tape once more.

## Newcomers at the table, and what a donor tells

practice-right = So does the judge: { $grade }.
practice-unsure = The judge says { $grade }, and is not sure of it: yours is worth a second run.
practice-wrong = The judge says { $grade }, not { $yours }. The grounds stand below.
told-cell = An 18650 out of a laptop, rated at { $rated }.
told-claim = Its wrap says { $claim }.
told-found = Looked at: { $findings }.
told-nothing-found = Looked at: nothing found.
told-new-wrap = It got a new wrap.
told-rested = It rested at { $voltage } as found.
told-charged = Charged to { $ended }.
told-emptied = A tester emptied it: { $capacity }.
told-resistance = Its resistance: { $resistance } { $method }.
told-method-ac-1khz = by a 1 kHz meter
told-method-dc-10s = 10 s under load
told-method-tester = by the tester itself
told-no-meter = Its resistance was not measured: no meter at this table.
expect-runs-short = Expect tired cells, or one weak group among good ones: compare the siblings.
expect-cuts-out = Expect high resistance: the voltage sags under load. The capacity may still be fair for small currents.
expect-dead = Expect a tripped board or deeply emptied cells: measure at the cells' own ends, not at the plug.
expect-does-not-charge = Expect a fault outside the cells, or one group far below the others, which the board refuses.
expect-unused = Expect low voltages. What still stands above the limit is often nearly new; watch its self-discharge.
expect-wet-or-dropped = Expect corrosion, dents and hidden shorts: look twice, and do not stack these cells.
expect-none = Expect good cells: the device died of something else.
expect-unknown = Expect anything: nobody knows what these cells went through, so look at and measure every one.
expect-share-left = { $now } of { $before } are { $left }: its weakest group gives no more than that at the device's current. { $expectation }
print-differs = { $voltage } times { $charge } are { $energy }, not { $printed }: one of them is wrong.
in-place-unknown = Its charger's current is not known: watch the first charge from beginning to end.
in-place-unknown-cell = Its board charges at { $board }; what the cell holds is not known yet, so stay with it.
in-place-too-strong = Its board charges at { $board }, more than the { $most } (1 C) this cell takes: do not charge it in place. It would also end at { $ends }, long before such a cell is full. A larger programming resistor would mend that.
in-place-too-strong-for-size = Its board charges at { $board }, more than the { $most } (1 C) that the largest cell of this size takes: do not charge it in place. It would also end at { $ends }, long before such a cell is full. A larger programming resistor would mend that.
in-place-unmeasured = Its board charges at { $board } and ends at { $ends }; what the cell holds is not known yet, so stay with it.
in-place-fits = Its board charges at { $board }, { $rate } of what the cell holds, and ends at { $ends }: fits.
groups-even = All groups within { $within }: nothing stands out.
groups-low = { $count ->
    [one] Group { $groups } stands below the others: a cell in it leaks or is worn. Watch its cells.
   *[other] Groups { $groups } stand below the others: a cell in each leaks or is worn. Watch their cells.
}
groups-high = { $count ->
    [one] Group { $groups } stands above the others: look whether the others are the weak ones.
   *[other] Groups { $groups } stand above the others: look whether the others are the weak ones.
}

## Charging: what is asked for

input-capacity = capacity
input-charge-current = charge current
input-full-voltage = full voltage
input-it-ends-below = it ends below
input-charge-at-start-0-to-1 = charge at the start, 0 to 1
input-or-resting-voltage-at-start = or the resting voltage at the start
input-resistance = resistance
input-voltage-of-higher-cell = voltage of the higher cell
input-voltage-of-lower-cell = voltage of the lower cell
input-resistance-of-higher-cell = resistance of the higher cell
input-resistance-of-lower-cell = resistance of the lower cell
input-resistor-between-them = resistor between them
input-capacity-of-higher-cell = capacity of the higher cell
input-capacity-of-lower-cell = capacity of the lower cell
input-even-enough-within = even enough within
input-since-end-of-charge = since the end of a charge
input-resting-voltages = resting voltages
input-last-digit-of-meter = last digit of the meter
input-charged-to = charged to
input-loss-to-be-told = loss to be told
input-mean-voltage = mean voltage
input-load-draws-constant = the load draws a constant
input-how-much = how much
input-of-converter-for-power = of the converter, for power

## Electric: what is asked for

input-current = current
input-constant-of-modules-chip = constant of the module's chip
input-programming-resistor = programming resistor
input-second-resistor-beside-it = second resistor beside it
input-voltage-of-cell-full = voltage of the cell, full
input-load-resistor = load resistor
input-shunt-or-leads-in-series = shunt or leads in series
input-supply = supply
input-voltage-of-cell = voltage of the cell
input-what-load-draws-while-it-charges = what the load draws while it charges
input-what-cell-holds = what the cell holds
input-gauge = gauge
input-length-of-conductor = length of conductor
input-material = material
input-thickness = thickness
input-width = width
input-length = length

## Measuring: what is asked for

input-mean-voltage-of-cell-while-charged = mean voltage of the cell while charged
input-efficiency-of-converter = efficiency of the converter
input-at-rest = at rest
input-with-resistor-on = with the resistor on
input-resistor = resistor
input-at-small-current = at the small current
input-small-current = small current
input-at-large-current = at the large current
input-large-current = large current
input-counted-by-meter = counted by the meter
input-modules-own-current = the module's own current
input-how-long-it-took = how long it took
input-mean-voltage-of-cell = mean voltage of the cell
input-readings-of-first-tester-cell = readings of the first tester, cell by cell
input-readings-of-second-on-same-cells = readings of the second on the same cells
input-measured = measured
input-limit = limit
input-standard-uncertainty = standard uncertainty

## Inputs: what is asked for

input-chemistry = chemistry

## Methods: what is asked for

input-it-ended-at = it ended at
input-measured-through = measured through
input-take-off-for-it-if-you = take off for it, if you measured that too
input-resistor-leads-included = resistor, leads included
input-how-long-under-load-before-reading = how long under load before reading
input-temperature-of-cell = temperature of the cell
input-temperature-of-room = temperature of the room
input-as-shown = as shown
input-discharge-current = discharge current
input-times = times
input-voltages-under-load = voltages under load
input-leads-and-shunt = leads and shunt
input-mean-voltage-under-load = mean voltage under load
input-how-long-it-ran = how long it ran
input-counted = counted
input-as-shown-put-in-anew-each = as shown, put in anew each time

## Charging: what comes out

output-together = together
output-at-constant-current = at constant current
output-at-constant-voltage = at constant voltage
output-until-even-enough = until even enough
output-at-first-moment = at the first moment
output-heat-in-resistor = heat in the resistor
output-they-meet-at = they meet at
output-loss = loss
output-standard-error = standard error
output-of-its-capacity-in-30-days = of its capacity in 30 days
output-verdict = verdict
output-to-wait = to wait
output-run-time = run time

## Electric: what comes out

output-lost-along-way = lost along the way
output-heat = heat
output-resistance = resistance
output-current = current
output-heat-in-load = heat in the load
output-heat-in-shunt = heat in the shunt
output-rating-to-buy-at-least = rating to buy, at least
output-charge-current = charge current
output-it-ends-below = it ends below
output-heat-in-chip = heat in the chip
output-never-ends = never ends
output-it-suits = it suits
output-charge-current-over-capacity = charge current over capacity
output-end-current-over-capacity = end current over capacity
output-programming-resistor-for-0-5-c = programming resistor for 0.5 C

## Measuring: what comes out

output-capacity-of-cell = capacity of the cell
output-standard-uncertainty = standard uncertainty
output-energy-into-cell = energy into the cell
output-second-against-first = second against first
output-more-than-chance = more than chance
output-probability-to-lie-below = probability to lie below
output-how-sure = how sure

## Charging: what it rests on

rests-on-generic-table-of-voltage-over-charge = generic table of voltage over charge, for planning only
rests-on-least-squares = least squares
rests-on-leaking-above-5-watch-above-2 = leaking above 5, watch above 2 mV a day, less 2 errors
rests-on-three-last-digits = three last digits

## Electric: what it rests on

rests-on-k-is-1000-to-1200-v = K is 1000 to 1200 V depending on the chip; it ends at a tenth
rests-on-twice-power-as-rating = twice the power as rating
rests-on-0-5-c-as-usual = 0.5 C as usual, at most 1 C; ends at C/10 with simple modules
rests-on-copper-1-72e-8-m = copper 1.72e-8 Ω m
rests-on-awg-20-carries-7-5 = AWG 20 carries 7.5 A in a small case, others by 20 K of warming
rests-on-nickel-6-99e-8-plated-steel = nickel 6.99e-8, plated steel about 1.43e-7 Ω m
rests-on-0-15-8-mm-of-nickel = 0.15 × 8 mm of nickel carries about 5 A, others by equal heat from their surface

## Measuring: what it rests on

rests-on-resolution-12-allowances-as-half-widths = resolution / √12, allowances as half widths / √3, added in squares
rests-on-5-for-resistor = 5 % for the resistor
rests-on-0-2-c-for-10-s = 0.2 C for 10 s, then 1 C for 1 s
rests-on-modules-draw-2-to-5-ma = modules draw 2 to 5 mA themselves
rests-on-efficiency-0-85-to-0-92 = efficiency 0.85 to 0.92
rests-on-efficiency-0-85-to-0-9 = efficiency 0.85 to 0.9
rests-on-at-least-3-cells = at least 3 cells
rests-on-standard-error-of-mean = standard error of a mean
rests-on-normal-distribution = normal distribution
rests-on-sure-from-95-likely-from-75 = sure from 95 %, likely from 75 %

## Inputs: what it rests on

rests-on-arithmetic = arithmetic

## Methods: what it rests on

rests-on-half-width = ± { $limit } %
rests-on-0-99-of-charge-comes-back = 0.99 of the charge comes back
rests-on-larger-of-3-and-2-m = the larger of 3 % and 2 mΩ
rests-on-20-m-in-spring-holder = ± 20 mΩ in a spring holder

## Charging: names

sum-charge-time = How long a charge takes
sum-join = Joining two cells
sum-self-discharge = Loss on the shelf
sum-slope-wait = How long to wait
sum-run-time = Run time

## Electric: names

sum-load-resistor = Load resistor
sum-program-resistor = Charge current of a module
sum-end-current-trap = Does this charge ever end?
sum-small-cell = Does a module suit a small cell?
sum-wire = Wire
sum-strip = Strip

## Measuring: names

sum-two-voltage = Resistance from two voltages
sum-two-current = Resistance from two currents
sum-usb-linear = USB meter before a linear module
sum-usb-switching = USB meter before a switching charger
sum-usb-step-up = USB meter behind a step-up
sum-compare-testers = Two testers on the same cells
sum-below = How sure against a limit

## Charging: purposes

sum-charge-time-purpose = Constant current, then constant voltage, over the family's table.
sum-join-purpose = What flows between two cells of different voltage, and when they are even.
sum-self-discharge-purpose = A line through resting voltages over days, with its error.
sum-slope-wait-purpose = When a meter can tell a loss at all.
sum-run-time-purpose = How long a cell or group feeds a load.

## Electric: purposes

sum-load-resistor-purpose = What a resistor draws from a cell, and what it must stand.
sum-program-resistor-purpose = What a resistor-programmed linear module charges with, and how hot it gets.
sum-end-current-trap-purpose = A load left on a module can keep it from ending.
sum-small-cell-purpose = A module that is set for a large cell charges a small one too fast, and ends too early.
sum-wire-purpose = What a copper wire loses, one way; there and back is twice the length.
sum-strip-purpose = What a strip between cells loses.

## Measuring: purposes

sum-two-voltage-purpose = With any resistor and a voltmeter. The charger must be off.
sum-two-current-purpose = Two loads one after the other; discharge counts positive.
sum-usb-linear-purpose = The current that goes in comes out, less the module's own.
sum-usb-switching-purpose = Energy counts here, not charge.
sum-usb-step-up-purpose = What came out at 5 V, brought back to the cell.
sum-compare-testers-purpose = Whether one reads more than the other, and by how much.
sum-below-purpose = How probable it is that the true value lies below a limit.

## Methods: names

way-tester = Constant-current tester
way-resistor-log = Resistor and a few voltages
way-resistor-clock = Resistor and a clock
way-charge-counted = Charge counted by a charger
way-usb-linear = USB meter before a linear module
way-usb-switching = USB meter before a switching charger
way-usb-step-up = USB meter behind a step-up
way-ac-meter = 1 kHz meter, four wires
way-two-voltage = Two voltages and a resistor
way-two-current = Two currents
way-tester-resistance = The tester's own value

## Methods: needs

way-tester-needs = a tester that empties the cell and counts
way-resistor-log-needs = a resistor, a voltmeter and a clock
way-resistor-clock-needs = a resistor and a clock
way-charge-counted-needs = a charger that counts, and a cell emptied before
way-usb-linear-needs = a USB meter and a linear charging module
way-usb-switching-needs = a USB meter and a switching charger
way-usb-step-up-needs = a step-up board, a load and a USB meter
way-ac-meter-needs = a 1 kHz meter
way-two-voltage-needs = any resistor and a voltmeter
way-two-current-needs = a load that can be set to two currents
way-tester-resistance-needs = a tester that shows a resistance

## What is asked for: what cannot be

input-with-unit = { $input } [{ $unit }]
input-missing = Missing: { $input }.
input-not-one-of = "{ $typed }" for { $input }: it is one of { $choices }.
input-no-number = "{ $typed }" for { $input } is not a number.
input-beyond-benches = { $value } for { $input }: no bench knows such a value.
input-out-of-range = { $value } for { $input }: { $wrong }.
input-has-to-be-positive = it must be above zero
input-has-to-be-zero-or-more = it cannot be below zero
input-has-to-be-share = it lies above 0 and at most at 1

## Limits: what each is

limit-nominal_v-layered-oxide = mean voltage of a discharge, layered oxide
limit-nominal_v-high-voltage-cobalt = mean voltage of a discharge, high voltage cobalt
limit-nominal_v-iron-phosphate = mean voltage of a discharge, iron phosphate
limit-nominal_v-titanate = mean voltage of a discharge, titanate
limit-full_v-layered-oxide = voltage at the end of a charge, layered oxide
limit-full_v-high-voltage-cobalt = voltage at the end of a charge, high voltage cobalt
limit-full_v-iron-phosphate = voltage at the end of a charge, iron phosphate
limit-full_v-titanate = voltage at the end of a charge, titanate
limit-cut_off_v-layered-oxide = end of a discharge on the bench, layered oxide
limit-cut_off_v-high-voltage-cobalt = end of a discharge on the bench, high voltage cobalt
limit-cut_off_v-iron-phosphate = end of a discharge on the bench, iron phosphate
limit-cut_off_v-titanate = end of a discharge on the bench, titanate
limit-pre_charge_below_v-layered-oxide = below this only a small current is allowed, layered oxide
limit-pre_charge_below_v-high-voltage-cobalt = below this only a small current is allowed, high voltage cobalt
limit-pre_charge_below_v-iron-phosphate = below this only a small current is allowed, iron phosphate
limit-pre_charge_below_v-titanate = below this only a small current is allowed, titanate
limit-never_charge_below_v-layered-oxide = below this copper may have dissolved: recycle, layered oxide
limit-never_charge_below_v-high-voltage-cobalt = below this copper may have dissolved: recycle, high voltage cobalt
limit-never_charge_below_v-iron-phosphate = below this copper may have dissolved: recycle, iron phosphate
limit-never_charge_below_v-titanate = below this copper may have dissolved: recycle, titanate
limit-store_at_v-layered-oxide = voltage for the shelf, layered oxide
limit-store_at_v-high-voltage-cobalt = voltage for the shelf, high voltage cobalt
limit-store_at_v-iron-phosphate = voltage for the shelf, iron phosphate
limit-store_at_v-titanate = voltage for the shelf, titanate
limit-overfull_from_v-layered-oxide = full at most, where nothing is marked on the cell, layered oxide
limit-overfull_from_v-high-voltage-cobalt = full at most, where nothing is marked on the cell, high voltage cobalt
limit-overfull_from_v-iron-phosphate = full at most, where nothing is marked on the cell, iron phosphate
limit-overfull_from_v-titanate = full at most, where nothing is marked on the cell, titanate
limit-marked_full_least_v-layered-oxide = full voltage marked on a cell, at least, layered oxide
limit-marked_full_least_v-high-voltage-cobalt = full voltage marked on a cell, at least, high voltage cobalt
limit-marked_full_least_v-iron-phosphate = full voltage marked on a cell, at least, iron phosphate
limit-marked_full_least_v-titanate = full voltage marked on a cell, at least, titanate
limit-marked_full_most_v-layered-oxide = full voltage marked on a cell, at most, layered oxide
limit-marked_full_most_v-high-voltage-cobalt = full voltage marked on a cell, at most, high voltage cobalt
limit-marked_full_most_v-iron-phosphate = full voltage marked on a cell, at most, iron phosphate
limit-marked_full_most_v-titanate = full voltage marked on a cell, at most, titanate
limit-high_voltage_usual_v = what a high-voltage cobalt cell may be made for where nobody read its mark
limit-watched_below_v = layered oxide: below this recovery is watched, at C/20
limit-thrifty_from_v = layered oxide, thrifty school: recovery from here, with a mark for life
limit-over_full_v = resting more than this above full is quarantine
limit-over_hazard_v = above full by more than this it is a hazard
limit-no_reading_below_v = below this nothing was measured: protection tripped or a tab torn
limit-sibling_gap_v = further below the middle of its siblings than this a cell is watched
limit-recovered_below_pre_charge_v = resting further below the pre-charge limit than this after a recovery has failed
limit-recovery_settles_h = after this the voltage of a recovered cell counts
limit-recovery_c = current of a recovery, at most
limit-watched_recovery_c = current of a watched recovery, at most
limit-recovery_minutes = a recovery that takes longer has failed
limit-recovery_warming_k = a recovery that warms the cell by more has failed
limit-recovery_check_min = a running recovery is looked at every
limit-watched_check_min = a watched recovery is looked at every
limit-state_matters_h = so long after charge or load the state of a voltage is asked
limit-climbing_wait_min = a voltage that still moves is taken again after
limit-charge_rate_c = charge current over believed capacity
limit-charge_rate_most_c = charge current, at most
limit-charge_end_c = a charge ends at this current
limit-module_end_share = a simple module ends at this share of its current
limit-full_stands_days = a charged cell waits for its run at most
limit-empty_stands_days = an emptied cell waits for a charge at most
limit-charge_unknown_large_ma = charge current of an 18650 or larger of unknown capacity
limit-charge_unknown_small_ma = charge current of a smaller cell of unknown capacity
limit-charged_within_v = a charge that ended this near to full was complete
limit-tester_usual_ma = what testers are usually set to, at most
limit-rest_before_discharge_min = rest between charge and capacity run
limit-charged_nearly_within_v = a charge that ended this near to full counts, with a remark
limit-charger_play_v = a charge that ended this near below 4.20 V was one of a usual charger
limit-stored_within_v = a charge that ended this near to the storage voltage was one for the shelf
limit-charged_above_pre_charge_v = charged this far above the pre-charge limit, a cell that is found below it later lost its charge by itself
limit-stopped_high_v = a discharge that stopped further above the bench cut-off is a part run
limit-rested_h = a voltage taken so long after charge, load or recovery is one at rest
limit-hot_degc = a cell warmer than this at rest is a hazard
limit-hot_above_room_k = a cell this much warmer than its room at rest is a hazard
limit-too_hot_degc = hotter than this is a hazard at once, as too hot to hold is
limit-cooled_down_h = so long after its donor was opened, or after charge or load, warmth is the cell's own
limit-never_charge_below_degc = no charge below: lithium plates out and shorts the cell later
limit-cold_below_degc = below this a cell is charged slowly
limit-cold_charge_c = charge current in the cold, at most
limit-relaxation_h-layered-oxide = voltage falls without loss for this long after a charge, layered oxide
limit-relaxation_h-high-voltage-cobalt = voltage falls without loss for this long after a charge, high voltage cobalt
limit-relaxation_h-iron-phosphate = voltage falls without loss for this long after a charge, iron phosphate
limit-relaxation_h-titanate = voltage falls without loss for this long after a charge, titanate
limit-leaking_mv_per_day = loses more, less two standard errors: out
limit-watch_mv_per_day = loses more, less two standard errors: watch
limit-slope_from_day = the last reading must lie beyond this day
limit-wait_resolutions = last digits that a slope must have moved
limit-settles_ended_v = what a voltage may fall by settling after a charge that ended by itself
limit-settles_stopped_v = what a voltage may fall by settling after a charge that was stopped
limit-charge_end_known_v = how well the voltage is known that a charge ended at
limit-flat_settles_above_v = iron phosphate: still settles above
limit-flat_starts_at_most_v = iron phosphate: settled, at most
limit-flat_tells_below_v = iron phosphate: one reading tells only below
limit-watch_again_days = a cell on watch is measured again after
limit-resistance_good_ohm_ah = resistance times capacity of a good cell, at most
limit-high_drain_ohm_ah = resistance times capacity of a high-drain cell, at most
limit-resistance_rose_pct = a resistance that rose by more is told
limit-charge_differs_pct = charge and discharge further apart are told
limit-raced_minutes = from less than a third full to full in less is told
limit-resistance_out_ohm_ah-ac-1khz = resistance times capacity above this is out, by a 1 kHz meter
limit-resistance_out_ohm_ah-dc-1s = resistance times capacity above this is out, 1 s under load
limit-resistance_out_ohm_ah-dc-10s = resistance times capacity above this is out, 10 s under load
limit-resistance_out_ohm_ah-tester = resistance times capacity above this is out, by a tester itself
limit-shorted_ohm_ah = below this over what its size can hold the leads touch each other
limit-sees_of_1_khz-dc-1s = times the resistance that 1 kHz sees, 1 s under load
limit-sees_of_1_khz-dc-10s = times the resistance that 1 kHz sees, 10 s under load
limit-telling_share = a resistance from a log is told where its half width is less than this share of it
limit-edge_apart_s = rows further apart than this show no resistance
limit-sag_v = sag that a continuous current may cause
limit-heat_18650_w = heat an 18650 may make in a closed case; others by surface
limit-no_sheet_c = continuous current of a cell without a sheet
limit-no_sheet_vape_c = continuous current of a vape cell without a sheet
limit-health_pct-A = measured over rated capacity, at least for { grade-A }
limit-health_pct-B = measured over rated capacity, at least for { grade-B }
limit-health_pct-C = measured over rated capacity, at least for { grade-C }
limit-bins-layered-oxide-cylinder-A = capacity by volume of a layered oxide cylinder, at least for { grade-A }
limit-bins-layered-oxide-cylinder-B = capacity by volume of a layered oxide cylinder, at least for { grade-B }
limit-bins-layered-oxide-cylinder-C = capacity by volume of a layered oxide cylinder, at least for { grade-C }
limit-bins-layered-oxide-flat-A = capacity by volume of a flat layered oxide cell, at least for { grade-A }
limit-bins-layered-oxide-flat-B = capacity by volume of a flat layered oxide cell, at least for { grade-B }
limit-bins-layered-oxide-flat-C = capacity by volume of a flat layered oxide cell, at least for { grade-C }
limit-bins-iron-phosphate-cylinder-A = capacity by volume of an iron phosphate cylinder, at least for { grade-A }
limit-bins-iron-phosphate-cylinder-B = capacity by volume of an iron phosphate cylinder, at least for { grade-B }
limit-bins-iron-phosphate-cylinder-C = capacity by volume of an iron phosphate cylinder, at least for { grade-C }
limit-power_c-A = continuous current over capacity, at least for { grade-A }
limit-power_c-B = continuous current over capacity, at least for { grade-B }
limit-power_c-C = continuous current over capacity, at least for { grade-C }
limit-density-layered-oxide-cylinder-doubtful = a claim above this is doubtful
limit-density-layered-oxide-cylinder-impossible = a claim above this is impossible
limit-density-layered-oxide-flat-doubtful = a claim above this is doubtful
limit-density-layered-oxide-flat-impossible = a claim above this is impossible
limit-density-iron-phosphate-cylinder-doubtful = a claim above this is doubtful
limit-density-iron-phosphate-cylinder-impossible = a claim above this is impossible
limit-density-iron-phosphate-flat-doubtful = a claim above this is doubtful
limit-density-iron-phosphate-flat-impossible = a claim above this is impossible
limit-density-titanate-cylinder-doubtful = a claim above this is doubtful
limit-density-titanate-cylinder-impossible = a claim above this is impossible
limit-density-titanate-flat-doubtful = a claim above this is doubtful
limit-density-titanate-flat-impossible = a claim above this is impossible
limit-density_by_mass-layered-oxide-doubtful = a claim above this is doubtful
limit-density_by_mass-layered-oxide-impossible = a claim above this is impossible
limit-density_by_mass-iron-phosphate-doubtful = a claim above this is doubtful
limit-density_by_mass-iron-phosphate-impossible = a claim above this is impossible
limit-density_by_mass-titanate-doubtful = a claim above this is doubtful
limit-density_by_mass-titanate-impossible = a claim above this is impossible
limit-density-layered-oxide-flat-small-doubtful = a claim above this is doubtful
limit-density-layered-oxide-flat-small-impossible = a claim above this is impossible
limit-small_flat_below_cm3 = a flat cell below this counts as small
limit-large_flat_from_cm3 = a flat cell from this on counts as large
limit-capacity_half_width_pct-trace = capacity by a logged curve is right within
limit-capacity_half_width_pct-tester = capacity by a tester is right within
limit-capacity_half_width_pct-charge-counted = capacity counted by the charger is right within
limit-capacity_half_width_pct-usb-linear = capacity by a USB meter before a linear module is right within
limit-capacity_half_width_pct-resistor-log = capacity by a resistor and a log is right within
limit-capacity_half_width_pct-usb-switching = capacity by a USB meter before a switching charger is right within
limit-capacity_half_width_pct-usb-step-up = capacity by a USB meter behind a step-up is right within
limit-capacity_half_width_pct-resistor-clock = capacity by a resistor and a clock is right within
limit-runs_disagree = runs further apart than so many times what their method allows are told to disagree
limit-reference_c = current that capacities are compared at
limit-reference_error_share = share of the way to the reference that is added to the uncertainty of a capacity
limit-like_current_ratio = capacities by currents further apart than so many times are not alike
limit-like_cut_off_v = capacities down to voltages further apart are not alike
limit-reference_most_left = a run that leaves a larger share in the cell is brought to no reference
limit-charge_efficiency = share of a counted charge that a healthy cell gives back
limit-converter_efficiency = efficiency of a switching charger or a step-up
limit-step_down_efficiency = efficiency of a step-down converter
limit-step_up_least_v = a step-up converter starts from, where nobody said
limit-step_down_room_v = a step-down converter wants above its output, where nobody said
limit-comparable_from_degc = a figure measured colder is marked
limit-comparable_to_degc = a figure measured warmer is marked
limit-ac_half_width_pct = 1 kHz meter, of the value
limit-ac_half_width_mohm = 1 kHz meter, at least
limit-dc_half_width_pct = the load resistor, of the value
limit-tester_half_width_mohm = a tester's two-wire resistance
limit-voltage_resolution_v = last digit of a cheap meter
limit-sure_from = a judgement this probable is sure
limit-likely_from = a judgement this probable is likely, below it is borderline
limit-runs_to_settle = after so many runs a borderline figure stands
limit-first_recheck_days = first look at a shelved cell after
limit-recheck_overdue_days = a look that is due is overdue after
limit-recheck_days = later looks at a shelved cell after
limit-recheck_gentle_days = later looks at a shelved cell of grade Gentle after
limit-stored_above_v = a shelved cell that rests more than this above its storage voltage is told
limit-join_within_v = resting voltages of cells to be joined differ by at most
limit-pack_full_v = full voltage of a pack without a coordinator's yes
limit-pack_energy_wh = energy of a pack without a coordinator's yes
limit-pack_full_most_v = full voltage of a pack, at most
limit-pack_energy_most_wh = energy of a pack, at most
limit-used_least_share = a device that leaves more than the rest of the charge in the cells is not proposed
limit-changed_pct = a capacity that changed by more since a plan was made is told
limit-groups_within_v = voltages of the groups of a built pack differ by at most
limit-size_near_across_mm = a caliper's outline is offered as a usual size: across within
limit-size_near_along_mm = a caliper's outline is offered as a usual size: along within
limit-room_play_mm = room that wrap, tape and strips take beside each cell
limit-resistivity_ohm_m-nickel = resistivity of nickel at 20 °C
limit-resistivity_ohm_m-copper = resistivity of copper at 20 °C
limit-resistivity_ohm_m-plated-steel = resistivity of plated steel at 20 °C
limit-wire_stands_a-28 = current of an AWG 28 wire beside cells, at most
limit-wire_stands_a-26 = current of an AWG 26 wire beside cells, at most
limit-wire_stands_a-24 = current of an AWG 24 wire beside cells, at most
limit-wire_stands_a-22 = current of an AWG 22 wire beside cells, at most
limit-wire_stands_a-20 = current of an AWG 20 wire beside cells, at most
limit-wire_stands_a-18 = current of an AWG 18 wire beside cells, at most
limit-wire_stands_a-16 = current of an AWG 16 wire beside cells, at most
limit-wire_stands_a-14 = current of an AWG 14 wire beside cells, at most
limit-wire_stands_a-12 = current of an AWG 12 wire beside cells, at most
limit-strip_thickness_mm = thickness of the usual strip
limit-strip_width_mm = width of the usual strip
limit-strip_stands_a = current of a nickel strip of 0.15 × 8 mm, at most; others by equal heat
limit-module_throttles_w = heat above which a linear charging chip throttles
limit-load_step_c = load for ten seconds by which a resistance is measured: a cheap meter sees it, and a resistor from the drawer stands it
limit-resistor_hot_w = a resistor with more is told to get hot
limit-join_gentle_a = first current of cells that are joined, told above
limit-join_patience_min = joining through a resistor that takes longer is told
limit-meter_sees_share = a meter hardly sees a resistance whose error is a larger share of it
limit-near_capacity_pct-strict = match, strict: the weakest cell below the strongest, at most
limit-near_capacity_pct-usual = match, usual: the weakest cell below the strongest, at most
limit-near_capacity_pct-relaxed = match, relaxed: the weakest cell below the strongest, at most
limit-near_resistance_ratio-strict = match, strict: largest over smallest resistance, at most
limit-near_resistance_ratio-usual = match, usual: largest over smallest resistance, at most
limit-near_resistance_ratio-relaxed = match, relaxed: largest over smallest resistance, at most
limit-near_voltage_v-strict = match, strict: resting voltages of cells that are joined as they lie
limit-near_voltage_v-usual = match, usual: resting voltages of cells that are joined as they lie
limit-paper_voltage_pct = a resting voltage may be wrong by, either way
limit-paper_resistance_pct = a resistance of which nobody said how sure it is may be wrong by
limit-paper_charge_band = a voltage that leaves more of the charge open does not tell it
limit-paper_optimistic_c = above this rate a run on paper is too hopeful
limit-join_fresh_days = a resting voltage counts for joining for
limit-board_over_most_v-layered-oxide = a board stops a charge at most at, layered oxide
limit-board_over_most_v-high-voltage-cobalt = a board stops a charge at most at, high-voltage cobalt without a mark
limit-board_over_most_v-iron-phosphate = a board stops a charge at most at, iron phosphate
limit-board_over_most_v-titanate = a board stops a charge at most at, titanate
limit-board_under_least_v-layered-oxide = a board stops a discharge at least at, layered oxide
limit-board_under_least_v-high-voltage-cobalt = a board stops a discharge at least at, high-voltage cobalt
limit-board_under_least_v-iron-phosphate = a board stops a discharge at least at, iron phosphate
limit-board_under_least_v-titanate = a board stops a discharge at least at, titanate
limit-board_above_full_v = a board of marked cells stops so much above the mark
limit-headroom_times = a board, switch or connector is rated for so many times the current
limit-fuse_least_times = a fuse blows at so many times the current, at least
limit-fuse_most_times = a fuse blows at so many times the current, at most
limit-drop_most_pct = of the voltage, lost in wires and contacts, at most
limit-contact_mohm = resistance of a holder's contact that nobody measured
limit-converter_least_share = a converter that works gives at least so much of what it takes
limit-linear_drop_out_v = a linear regulator needs so much above its output
limit-low_drop_out_v = a low-drop regulator needs so much above its output
limit-regulator_sink_w = above this a regulator wants a heat sink
limit-regulator_most_w = above this a regulator is the wrong way
limit-module_supply_least_v = a small charging module wants at least
limit-module_supply_most_v = a small charging module stands at most
limit-supply_share = of what a supply can give, used at most
limit-standing_weeks = a standing drain empties a pack in this time at the earliest
limit-cell_gap_mm = room between cylinders in rows
limit-holder_gap_mm = room between cylinders in holders
limit-swelling_share = room for swelling beside a flat cell, as a share of its thickness
limit-apart_mm = bare cans of two groups stand so far apart, or something lies between
limit-layout_head_mm = what strips and paper above and below the cells take
limit-strip_reach = a piece of strip reaches so many times from a cell to its neighbour
limit-uneven_way_pct = a cell may give so much more or less than its share because of its way to the lead
limit-plate_edge_mm = edge of a plate around its holes
limit-hole_play_mm = a hole is so much wider than its cell
limit-layout_most_cells = cells that are drawn in one pack at most
limit-case_most_mm = longest side of a case
limit-card_charge_weeks = a pack that is not in use is charged every so many weeks at the latest
limit-bleed_patience_h = groups are made even within
limit-window_good_share = of the energy, usable within the device's window
limit-run_match_above_c = above this rate groups for the longest run are offered too
limit-cell_most_v = a typed voltage above this is a slip
limit-cell_most_mah = a typed capacity above this is a slip
limit-cell_most_mohm = a typed resistance above this is a slip
limit-bench_least_degc = temperature of a cell at the bench, at least
limit-bench_most_degc = temperature of a cell at the bench, at most
limit-mass_g_most = mass of a cell, at most
limit-outline_mm_least = a measured side of a cell, at least
limit-outline_mm_most = a measured side of a cell, at most
limit-odd_change_v = a change without charge or discharge that is asked about
limit-odd_over_rated_pct = a capacity further above the rated value is asked about
limit-odd_change_pct = a change of capacity that is asked about
limit-low_charge_share = below this share of its charge the voltage of every family tells it
limit-print_nominal_within_v = a print is this near to the nominal voltage of its cells
limit-print_differs_share = volts times ampere hours further from the printed watt-hours are told
limit-within_share = without a target a shortfall is told against this share of the weakest group
limit-odd_mohm = a resistance above this is asked about
limit-about_half_width_pct = what a value said as about may be off by
limits-about-chemistry-families = Chemistry families
limits-about-first-voltage-and-recovery = First voltage and recovery
limits-about-charging-and-resting = Charging and resting
limits-about-heat-and-cold = Heat and cold
limits-about-at-rest = At rest
limits-about-resistance-and-power = Resistance and power
limits-about-grades = Grades
limits-about-what-can-fit-in-a-size = What can fit in a size
limits-about-how-sure = How sure
limits-about-the-shelf = The shelf
limits-about-packs = Packs
limits-about-wires-strips-modules = Wires, strips, modules
limits-about-how-near-in-a-match = How near in a match
limits-about-pack-on-paper = A pack on paper
limits-about-joining = Joining
limits-about-what-a-pack-is-built-from = What a pack is built from
limits-about-where-cells-stand = Where the cells of a pack stand
limits-about-what-a-typed-value-can-be = What a typed value can be
limit-cannot-be = { $limit }: { $value } cannot be; it lies between { $least } and { $most }.

## Sums: how they were worked out, and what to know of them

worked-sum-charge-time = { $cc_minutes } min at { $current } mA, then { $cv_minutes } min at { $full } V
sum-tells-stay-with-it = Stay with it; on metal or stone, nothing that burns nearby.
sum-tells-cell-that-rests-at-v-must = A cell that rests at { $start } V must not be charged at all: below { $never } V copper may have dissolved.
sum-tells-from-v-it-starts-at-ma = From { $start } V it starts at { $slow } mA (C/10) at most, until it has passed { $slowly } V.
worked-sum-join = ({ $ua } - { $ub }) V / ({ $ra } + { $rb } + { $r_ohm }) Ω = { $peak } A
sum-tells-at-first-touch = { $peak } A at the first touch: join through a resistor, or charge both to full first.
sum-tells-charging-both-to-full-first = Charging both to full first is quicker.
sum-tells-at-first-touch-is-more-than = { $peak } A at the first touch is more than { $who } ({ $most } A). Join through a resistor, or charge both to full first.
sum-tells-it-rises-which-is-no-loss = It rises, which is no loss: measure again, with the same meter and in the same warmth.
sum-tells-measure-again-later = Measure again later; “How long to wait” tells when it will say something.
worked-sum-run-time = { $capacity_ah } Ah × { $mean } V × { $efficiency } / { $value } W = { $hours } h
worked-sum-run-time-2 = { $capacity_ah } Ah / { $value } A = { $hours } h
worked-sum-run-time-3 = { $capacity_ah } Ah × { $value } Ω / { $mean } V = { $hours } h
worked-sum-load-resistor = { $u } V / ({ $load_ohm } + { $shunt_ohm }) Ω = { $current } A; { $current }² × { $load_ohm } Ω = { $load } W
sum-tells-resistor-gets-hot = The resistor gets hot: lay it on stone or metal, and do not touch it.
worked-sum-program-resistor = { $k } V / { $resistor } Ω = { $current } A; ({ $supply } - { $cell }) V × { $current } A = { $heat } W
red-chip-heat = { $heat } W in the chip: above { $throttles } W it throttles and charges more slowly than set.
worked-sum-end-current-trap = ends below { $end } mA; the load draws { $load } mA
sum-tells-load-alone-keeps-module-from-ending = The load alone keeps the module from ending: the cell floats at full voltage. Take the load off.
worked-sum-small-cell = { $current } mA / { $capacity } mAh = { $charge_c } C; ends at { $end } mA = { $end_c } C
sum-tells-is-more-than-like-this-stands = { $current } A is more than { $what } like this stands ({ $most } A): it gets hot beside the cells. { $instead }
worked-sum-carried = { $worked } = { $ohm } mΩ; × { $current } A = { $drop } V
worked-of-wire = 1.72e-8 Ω m × { $length_m } m / { $section_mm2 } mm²
worked-sum-two-voltage = { $load_ohm } Ω × ({ $rest } - { $load }) V / { $load } V = { $mohm } mΩ
sum-tells-this-meter-hardly-sees-it = This meter hardly sees it: take a smaller resistor (more current) or a meter with a finer last digit.
worked-sum-two-current = ({ $u1 } - { $u2 }) V / ({ $i2 } - { $i1 }) A = { $mohm } mΩ
worked-sum-usb-linear = { $meter } mAh - { $draw } mA × { $hours } h = { $capacity } mAh
sum-tells-use-meters-mah-not-its-wh = Use the meter's mAh, not its Wh: before a linear module the Wh are those of the supply.
worked-sum-usb-switching = { $meter_mwh } mWh × { $efficiency } / { $mean } V = { $capacity } mAh
worked-sum-usb-step-up = { $meter_mwh } mWh / ({ $efficiency } × { $mean } V) = { $capacity } mAh
worked-sum-below = Φ(({ $limit } - { $value }) / { $u }) = { $probability }
worked-sum-below-2 = { $value } against { $limit }, nothing uncertain
red-small-cell = { $current } are { $rate } of { $capacity }: more than any such cell takes. Not this module, or another resistor.
sum-tells-ends-too-early = It ends at { $end }, { $rate }: the cell is not full then, and no capacity counted after it is whole.
worked-of-strip = { $ohm_m } Ω m × { $length } mm / ({ $thickness } × { $width } mm²)
conductor-wire = a wire
conductor-strip = a strip
red-charge-rate = { $current } is { $rate }: a cell is charged at { $most } at most.
worked-sum-slope-wait = { $times } × { $digit } / { $limit } a day = { $days } days
touch-taker = the lower cell may be charged with
touch-giver = the higher cell may give
worked-sum-readings = { $left ->
    [0] { $count } readings count
   *[other] { $count } readings count, { $left } that still settle do not
}
worked-sum-self-discharge = { $left ->
    [0] { $loss } ± { $error } a day over { $count } readings
   *[other] { $loss } ± { $error } a day over { $count } readings; { $left } that still settle left out
}
worked-sum-compare-testers = the second reads { $difference } ± { $error } against the first over { $count } cells
instead-of-wire = Take a thicker wire, or two side by side.
instead-of-strip = Take more strips side by side, or thicker ones.

## Entries: what is for a coordinator

doing-deciding-on-cell-that-was-put = Deciding on a cell that was put aside
doing-judging-otherwise-than-rules = Judging otherwise than the rules
doing-cell-is-not-out = Cell { $cell } is not out. Throwing it out all the same
doing-correcting-reading = Correcting a reading
doing-giving-up-wish = Giving up a wish
doing-changing-instrument = Changing an instrument
doing-forgetting-habit = Forgetting how logs of this kind are read
doing-stopping-search = Stopping a search
doing-forgetting-holder = Forgetting who has a pack
doing-withdrawing-page = Withdrawing the page of a pack
doing-deciding-on-return = Deciding on a pack that came back
doing-moving-pack = Dropping a pack, giving it out or taking it apart
doing-ending-evening = Ending the evening
doing-undoing-entry-of = Undoing an entry of { $person }
doing-striking-out-what-was-found = Striking out what was found or done
doing-striking-out-figure-of = Striking out a figure of { $person }
doing-cell-is-hazard = Cell { $cell } is a hazard. Striking out a figure of it

## Identity: what is for a coordinator

doing-changing-what-measured-cell-is = Changing what a measured cell is
doing-saying-what-unknown-or-primary-chemistry = Saying what an unknown or primary chemistry is

## Rules: what is for a coordinator

doing-setting-house-rules = Setting the house rules

## Catalogue: what is for a coordinator

doing-extending-catalogue = Extending the catalogue
doing-changing-catalogue = Changing the catalogue

## Instruments: what is for a coordinator

doing-correcting-instrument = Correcting an instrument
doing-ending-correction = Ending a correction

## Earlier readings: what is for a coordinator

doing-correcting-earlier-readings = Correcting earlier readings
doing-taking-back-what-was-corrected = Taking back what was corrected

## Packs: what is for a coordinator

doing-saying-yes-to-cell = Saying yes to a cell that was recovered from very low
doing-handing-cells-to-recycler = Handing cells to the recycler

## Plans: what is for a coordinator

doing-carry-mark-for-life = { $marked } carry a mark for life. Putting them into a pack
doing-pack-of-above-or = A pack of { $size }, above { $pack_full } or { $pack_energy },

## Places: what is for a coordinator

doing-changing-place = Changing a place

## What a way to measure asks of the bench

plan-resistor = { $resistor } draws about { $current } ({ $rate }): up to { $heat }, so take one rated { $rated } or more; { $gets }. It takes about { $time }.
plan-gets-hot = it gets hot: stone or metal below, nothing near
plan-gets-warm = it gets warm
plan-tester = Set about { $current } ({ $rate }): about { $time }, { $heat } of heat in the tester. At 1 A it takes { $time_at_one }, { $heat_at_one }, and shows a little less.
plan-charge-untimed = Empty it first, then charge at { $current } until { $end }. No table of its family says how long. { $about }
plan-charge = Empty it first, then charge at { $current } until { $end }: about { $constant } at that current and { $falling } of it falling. { $about }
plan-stay = Stay with it.
plan-usb-linear = The module's chip turns up to { $heat } into heat. Expect about { $expected } on the meter.
plan-usb-switching = Expect about { $expected } on the meter; its mAh say nothing here.
plan-usb-step-up = { $resistor } at the 5 V end turns { $heat } into heat: take one rated { $rated } or more. It takes about { $time }; expect about { $expected } on the meter.
plan-two-voltage = { $resistor } for ten seconds draws about { $current }: { $heat } while it is on, so hold it by its leads and take it off again.
plan-two-current = { $small } for 10 s, then { $large } for 1 s, reading the voltage at the end of each.
sees-meter = The meter tells about { $value } to ± { $error }.
plan-ac-meter = About this much if it is a good one; it takes seconds. Four wires, on bare metal.
sees-meter-hardly = { $told } Take the mean of several, or a meter with a finer range.
sees-holder = Two wires in a spring holder tell about { $value } to ± { $error }.
plan-tester-resistance = Put it in anew three times; the least counts.
sees-holder-hardly = { $told } That is hardly seen: take two voltages and a resistor, or a 1 kHz meter.
sees-capacity = It tells about { $value } to ± { $error }.
sees-resistance = A meter with { $digit } digits sees about { $value } with it, ± { $error }.
sees-no-resistance = A meter with { $digit } digits cannot see about { $value } with it (± { $error }): take one with { $finer } digits.
plan-assumed = { $plan } Taken as { $assumed }, until more is known of it.
assumed-family = layered oxide
assumed-capacity = about { $capacity }
assumed-family-of-capacity = layered oxide of about { $capacity }

# What somebody else changed, and other refusals of the web.
changed-meanwhile = { $what } was changed by somebody else after you opened it. Nothing of yours was stored yet: look at the new state, then save again.
this = This
this-by-name = "{ $name }"
this-cell = Cell { $cell }
this-donor = Donor { $donor }
this-instrument = This instrument
this-pack = Pack { $pack }
this-place = { $place }
this-rules = The house rules
no-full-voltage-of = { $full } is no full voltage of { $family }: that lies between { $least } and { $most }. Look at the mark once more, or leave it empty.
family-layered-oxide = layered oxide
family-high-voltage-cobalt = high voltage cobalt
family-iron-phosphate = iron phosphate
family-titanate = titanate
family-primary = primary
no-number-of-ours = "{ $typed }" is not a number of Zembric's. A cell looks like { $cell }, a donor like { $donor }, a tray like { $tray }, a box like { $box }.
not-the-number-of = "{ $typed }" is not the number of { $thing }. It looks like { $example }.
not-a-role = "{ $role }" is not a role; there are { $roles }.
no-such-place = There is no place { $place }. A tray looks like { $example }.
slot-is-not-free = Place { $slot } of { $place } is taken, or there is none. Free: { $free }.
print-of-primary-choose-it = "{ $typed }" is the print of a primary cell, which must never be charged. Choose primary.
wrong-sign-in = Name and password do not fit. Capitals count in the password.
http-no-such-address = There is nothing at this address.
http-not-taken-here = This address does not take that.
http-too-much-in-one-go = That is more than Zembric takes in one go.
http-send-json = Send JSON.
http-refused = This was refused with the status { $status }.
request-has-to-be-object = The request has to be a JSON object.
request-lacks = { $field } is missing in the request.
request-has-too-much = { $field } is nothing that this request knows.
request-text-too-long = { $field } is too long; it has { $most } characters at most.
request-is-one-of = { $field } has to be one of { $choices }.
request-does-not-fit = { $field } does not fit what this request takes.
page-is-too-old = This page is too old. Load it again; what you typed can be kept.
there-is-no-such-sign-in = There is no such sign-in of yours; it may have ended already.
there-are-passkeys-already = You have { $most } passkeys already. Take one away that you do not use any more.
this-is-no-answer-of-device = This is no answer of a device to what was asked. Try it once more.
this-passkey-is-here-already = This passkey is here already: you can sign in with it.
there-is-no-such-passkey = There is no such passkey of yours; it may be gone already.
wrong-passkey = This passkey opens nothing here. Sign in with name and password; passkeys are added on your own page.
wrong-password = That is not your password. Nothing was changed.
this-was-asked-too-long-ago = This was asked too long ago. Begin once more.
too-much-at-once = You have { $most } of these under way already. Wait until one of them is done.
disk-is-full = The disk of this computer is full. Nothing was kept; what you typed is still here and goes when there is room. A coordinator has to make room: move old backups away.
database-does-not-answer = The database does not answer at the moment. Nothing was changed; what you typed is still here, try again.
fault-inside = Something went wrong inside Zembric. Nothing was changed; try again, and tell a coordinator if it stays.

# Packs that would do, and kinds that would not.
output-of-power = { $load }
output-of-current = { $out } x { $load }
output-of-resistor = ({ $out })² / { $load }
behind-converter-worked = { $output } at the output / { $efficiency } = { $power } from the cells, from { $least } to { $most }.
kind-would-do-with-cells = { $cells ->
    [one] It would do, with one cell.
   *[other] It would do, with { $cells } cells.
}
kind-without-table = No table tells how its voltage falls.
taker-converter = the converter
taker-device = the device
one-is-full-above = One is full at { $full }, above the { $most } that { $taker } bears.
series-stops-half-full = { $series } in series give { $full } at most, and at { $least } { $taker } would stop with more than half still inside.
pack-needs-more-cells = { $pack } needs { $cells ->
    [one] one cell
   *[other] { $cells } cells
}; the shelf has { $shelf }.
more-than-volunteers-build = { $full } full and { $energy } are more than volunteers may build: { $full_most } and { $energy_most } at most.
coordinator-has-to-say-yes = Above { $full } or { $energy } a coordinator has to say yes.
charger-at-hand-is-wrong = The charger at hand ends at { $ends }; { $series } in series want { $wanted }. Not this one.
series-wants-board = In series every group wants a board that watches it.
one-group-wants-cut-off = One group wants a low cut-off too: a small board, or a device that stops by itself at { $cut_off } or above.
no-slot-is-free = none
thing-cell = a cell
thing-donor = a donor
thing-pack = a pack
thing-tray = a tray
thing-box = a box
thing-instrument = an instrument

source-data-sheets = usual data-sheet value
source-house-default-2026 = house default, 2026
source-house-survey-2026 = house survey of data sheets, 2026
source-gum = Guide to the expression of uncertainty in measurement
source-iec-61960-3 = IEC 61960-3
source-iec-61960-3-and-sheets = IEC 61960-3 and data sheets: 30 to 60 min
source-iec-60028 = IEC 60028
source-tables-of-materials = tables of materials
source-usual-strip = usual strip
source-rounded-prints = prints are rounded
source-extra-low-voltage = extra-low voltage
source-no-cell-above = no lithium cell rests above it
source-resolution-against-slope = resolution against slope
source-laws = Ohm's law, charge and energy
is-no-input-perhaps = "{ $key }" is no input of { $name }. Did you mean { $near }?
is-no-input-there-are = "{ $key }" is no input of { $name }. It takes { $keys }.
formula-way-tester = as shown
formula-way-resistor-log = Q = ∫ U / (R + R_leads) dt
formula-way-resistor-clock = Q = U_mean t / R
formula-way-charge-counted = Q = 0.99 × counted
formula-way-usb-linear = Q = meter - draw × hours
formula-way-usb-switching = Q = E η / U_mean
formula-way-usb-step-up = Q = E / (η U_mean)
formula-way-ac-meter = as shown
formula-way-two-voltage = r = R (U0 - U1) / U1
formula-way-two-current = r = (U1 - U2) / (I2 - I1)
formula-way-tester-resistance = least of the repeats
formula-two-voltage = r = R (U0 - U1) / U1
formula-two-current = r = (U1 - U2) / (I2 - I1)
formula-usb-linear = Q = meter - draw × hours; E = Q × U_mean
formula-usb-switching = Q = E η / U_mean
formula-usb-step-up = Q = E / (η U_mean)
formula-compare-testers = mean of (b - a) / ((a + b) / 2), standard error with n - 1; significant beyond 2 errors
formula-below = P = Φ((limit - value) / u)
formula-load-resistor = I = U / (R_load + R_shunt); P = I² R; rating = 2 P
formula-program-resistor = I = K / R; 1/R = 1/R1 + 1/R2; end at I / 10; P = (U_in - U_cell) I
formula-end-current-trap = never ends where load ≥ I / 10
formula-small-cell = I = K / R, over Q at most 1 C; end at I / 10, over Q at most C / 10; R = K / (0.5 Q)
formula-wire = d = 0.127 mm × 92^((36 - AWG) / 39); R = ρ l / A at 20 °C
formula-strip = R = ρ l / (thickness × width)
formula-charge-time = until OCV + I r = U_full: Q / I; then I = (U_full - OCV) / r until I_end or full
formula-join = I0 = (Ua - Ub) / (ra + rb + R); dQ/dt = I, each voltage by its table
formula-self-discharge = least squares with weights 1/u²; as charge: slope / (dU/dSoC)
formula-slope-wait = days = 3 e / L
formula-run-time = Q / I; Q U η / P; Q R / U
there-is-no-sum-perhaps = There is no sum "{ $name }". Did you mean { $near }?
there-is-no-sum-there-are = There is no sum "{ $name }". There are { $names }.
on-the-bench-cell = A cell and a meter
on-the-bench-resistor = A load resistor
on-the-bench-module = A charging module
on-the-bench-usb-meter = A USB meter
on-the-bench-shelf = A cell that rests
on-the-bench-two-cells = Two cells to join
on-the-bench-wire = Wire and strip
on-the-bench-testers = Two testers
axis-minutes = minutes
axis-days-since-charge = days since the end of the charge
line-voltage = voltage
line-higher-cell = higher cell
line-lower-cell = lower cell
line-readings = readings
line-fit = fit
size-primary = A primary lithium cell. Never charge it.
size-also-er = Many primary cells have this size and show 3.6 V: look for ER or LS in front of it, and never charge one.
size-also-cr = Many primary cells have this size and show 3.0 V: look for CR in front of it, and never charge one.
size-is-no-chemistry = { $size } is a size and no chemistry: most of this size are alkaline, nickel or primary lithium. It may be a primary cell. Never charge it before somebody has made sure.
size-letters-of-model = The letters in front are a model's own and tell no chemistry.
size-read-as = Read as { $outline }: in tenths of a millimetre it would be shorter than wide.
size-count-left-out = The count { $typed } in front says how many cells are joined; it is left out.
outline-round = { $width } by { $length }
outline-flat = { $thickness } by { $width } by { $length }
holds-at-most = { $what } hold at most about { $energy }; at { $nominal } that is { $doubtful }, and nothing made holds more than { $impossible }.
column-label = Number or label
column-donor = Donor
column-donor_kind = Kind of donor
column-size = Size
column-family = Chemistry
column-rated_mah = Rated mAh
column-claimed_mah = Claimed mAh
column-voltage_v = Voltage
column-capacity_mah = Capacity
column-resistance_mohm = Resistance
column-mass_g = Mass
column-findings = Findings
column-note = Note
print-of-primary = This is the print of a primary cell, which must never be charged. Its chemistry is primary.
is-no-kind-of-device = "{ $kind }" is not a kind of device here; there are { $kinds }.
is-no-chemistry-here = "{ $typed }" is not a chemistry known here; there are { $families }.
cannot-be-above-zero-at-most = { $value } cannot be: it lies above 0 and is { $most } at most.
is-nothing-to-find = "{ $typed }" is not something to find; there are { $findings }, or "nothing".
stands-already = "{ $label }" stands in line { $line } already. A number names one cell.
voltage-cannot-be = { $value } cannot be: no lithium cell rests above { $most }.
voltage-cannot-be-was-it = { $value } cannot be: no lithium cell rests above { $most }. Was it { $meant } V?
capacity-cannot-be = { $value } cannot be: a cell of this size holds at most about { $most }.
capacity-cannot-be-was-it = { $value } cannot be: a cell of this size holds at most about { $most }. Was it { $meant } mAh?
paper-sheet = A4, { $count } labels of { $width } x { $height }
paper-roll = Roll, { $width } x { $height }
paper-roll-flag = Roll, flag of { $width } x { $height }
no-log-but-compressed = This is a compressed file, no log. Unpack it first.
no-log-but-old-spreadsheet = This is an old binary spreadsheet, no log. Open it and save it as CSV or as .xlsx.
no-log-but-pdf = This is a PDF, no log. Export the measured rows as CSV instead.
no-log-but-picture = This is a picture, no log. Export the measured rows as CSV instead.
log-hardly-rows = Only { $rows } of { $total } lines are rows of numbers. A log has a line for each moment with time, voltage and current.
log-hardly-rows-but = Only { $rows } of { $total } lines are rows of numbers; line { $line } reads "{ $example }". A log has a line for each moment with time, voltage and current.
log-no-voltage = There is no column that can be the voltage of a cell. Say which one it is.
log-no-voltage-among = There is no column that can be the voltage of a cell. The columns are { $columns }.
log-runs-around = "{ $column }" runs around { $value }, which is no voltage of a cell in V or mV. Say which column and which unit it is.
log-reaches = "{ $column }" reaches { $value }, which no cell and no pack here has.
log-no-time = "{ $column }" cannot be read as a time, e.g. "{ $example }". Use seconds, hh:mm:ss or a date like 2026-03-14 19:30:00.
log-no-unit-of-current = "{ $column }" names no unit, and its values fit more than one (current, in A or in mA). Say the current unit.
log-no-unit-of-time = "{ $column }" names no unit, and its values fit more than one (time, in s, ms, min or h). Say the time unit.
where-recycler = went to the recycler on { $on }
where-in-pack = in pack { $pack }
where-in-use = in use in { $device }
where-nowhere = nowhere on record
where-in-slot = { $place }, place { $slot }
where-in-place = { $place }
found-cell = Cell { $number }
where-opened = opened on { $on }
found-sized = { $size }, out of { $donor }
found-unsized = Size not known, out of { $donor }
pack-state-planned = planned
pack-state-built = built
pack-state-given-out = given out
pack-state-back = back
pack-state-taken-apart = taken apart
pack-state-dropped = dropped
instrument-kind-voltmeter = voltmeter
instrument-kind-tester = capacity tester
instrument-kind-ac-meter = 1 kHz meter
instrument-kind-usb-meter = USB meter
instrument-kind-charger = charger that counts
place-kind-tray = tray
place-kind-holding-box = holding box
place-kind-shelf-box = shelf box
place-kind-out-box = out box
place-kind-fire-safe-box = fire-safe box
no-more-than-chance = { $bias } ± { $error } is no more than chance; there is nothing to correct.
correction-taken-back = Correction of { $instrument } taken back
correction-of = Correction of { $instrument }
log-was-kept-already = This was kept already, for cell { $cell }.
log-our-fault = Reading it failed again and again, by a fault of ours. The file is kept: read it anew after the next update, or export it as CSV with time, voltage and current only.
no-resistance-vague = { $found } ± { $half_width } would be no figure
no-resistance-rows-apart = its rows lie too far apart
no-resistance-short-steps = no step was kept for long enough
no-resistance-no-step = the current makes no step in it that was kept for a second
pack-state-stopped = stopped
pack-is-at-its-end = Pack { $pack } is { $state }; after that it can be nothing else.
pack-cannot-be-that = Pack { $pack } is { $state }; after that it can be { $allowed }.
pack-not-put-to-test = Pack { $pack } is { $state }; it is not put to the test.
box-is-empty = { $box } is empty.
likely-by-siblings = its siblings hold { $expected }
likely-by-rated = rated { $rated }; about { $expected } are usually left
likely-unknown = nothing known of it yet
label-size-unknown = size unknown
label-marked = MARKED, { $size }
label-primary = PRIMARY, never charge
label-chemistry-unknown = chemistry unknown
label-from = from { $donor }
label-from-by-hand = from { $donor }, judged by hand
example-donor = Old laptop of the library
example-capacity = about 2300
example-note = came in a shoe box
taken-in-from-file = taken in from a file
rest-of-nothing = Nothing was charged or discharged yet.
recall-tell = Stop using it and do not charge it. Take it outside or onto stone, away from anything that burns, and leave it there. Do not carry it in a bag or a car's boot. If it hisses, smokes or is hot, keep away and call the fire service. We come and fetch it, or tell you how to bring it.
print-plan = { $pack }, { $shape }: { $count } cells
print-look-before-taking = Look at each cell before you take it. Tape its ends, keep the groups apart.
print-slot = place { $slot }
print-amount = { $amount }
print-to-group = to group { $group }
print-no-place = no place
print-look-first = Look first. Then volts with nothing connected.
print-dangers = Hot, hissing, swollen, leaking: fire-safe box.
print-hold-ruler = Hold a ruler against these lines.
print-both-100 = Both are 100 mm. If not, print again without fitting to the page, at 100 %.
print-layout-face = { $pack } { $face }
layout-face-top = from above
layout-face-bottom = from below
layout-face-tabs = from above, at its tabs
print-layout-size = True size. The cells take { $length } by { $width }.
print-layout-ruler = 100 mm. If a ruler says otherwise, print again at 100 %.
print-not-yet = Not to be built as it stands. { $why }
print-build-sheet = { $pack }, built step by step
print-cell-end = { $cell } { $end }, { $joint }
cell-joint-weld = welded
cell-joint-solder = soldered at its tab
cell-joint-holder = in the holder
print-caution = ! { $text }
print-band = { $least } to { $most }
cell-end-up = plus up
cell-end-down = plus down
print-frames = The thin frames are the labels.
print-shift = Lay the print over a label sheet against the light; set the shift if they do not meet.
print-code-reads = This code reads C1042.
pool-capacity = a capacity in mAh, zero or more, e.g. 2310
pool-resistance = a resistance in mΩ above zero, e.g. 48
pool-resistance-cannot-be = Line { $line }: { $column } is { $value }, which cannot be. Leave it empty where it was not measured.
pool-capacity-cannot-be = Line { $line }: { $column } is { $value }, which cannot be. It is zero or more.
pool-no-column = There is no column { $name }. The first line names the columns: { $id },{ $capacity },{ $resistance }.
pool-column-twice = There is more than one column { $name }. The first line names the columns: { $id },{ $capacity },{ $resistance }.
story-event-after-now = events[{ $index }].at: { $at } lies after now, { $now }. A story tells what was.
story-missing = is missing.
story-no-kind-of-event = "{ $tag }" is no kind of event; there are { $tags }.
story-has-no-kind = has no kind.
story-not-one-of = { $shown } is not one of { $choices }.
story-above-zero = { $shown } cannot be: it is above zero.
story-no-number = { $shown } is not a number.
story-no-time-zone = { $shown } names no time zone; write it like 2026-03-14T19:30:00Z.
story-no-time = { $shown } is not a time; write it like 2026-03-14T19:30:00Z.
story-wrong-type = { $shown } cannot be: here stands { $right }.
no-reason-said = no reason said
story-type-text = a text
story-type-list = a list
story-type-object = an object
story-type-yes-or-no = true or false
story-type-number = a number
story-type-other = something else
reads-otherwise = Reads { $by } against { $against }
source-house-rules = house rules, version { $version }
is-no-language-here = "{ $language }" is no language here; there are { $languages }.
doing-choosing-language-of-prints = Choosing the language of prints

# What pages call the codes of the house.
grade-meaning-A = one of the best here
grade-meaning-B = good, with something lost
grade-meaning-C = weak, and still of use
grade-meaning-out = goes to the recycler
grade-meaning-not-yet = something is still missing
shown-step-inspect = Look at
shown-step-repair = Mend
shown-step-measure-voltage = Measure voltage
shown-step-recover = Recover slowly
shown-step-charge = Charge
shown-step-rest = Rests
shown-step-measure-capacity = Measure capacity
shown-step-measure-resistance = Measure resistance
shown-step-repeat-measurement = Measure once more
shown-step-shelve = Put on the shelf
shown-step-keep = Kept on the shelf
shown-step-recheck = Look again
shown-step-decide = Decide
shown-step-fire-safe-box = Into the fire-safe box
shown-step-out-box = Into the out-box
shown-step-in-pack = In packs
shown-step-on-tester = On the testers
shown-step-in-use = In use in devices
shown-step-hand-over = Wait for the recycler
shown-step-handed-over = Went to the recycler
shown-step-watched = Watched at rest
shown-step-read-at-rest = Read again at rest
shown-finding-swollen = Swollen or soft
shown-finding-leaking = Leaking or sweet smell
shown-finding-hot = Hot or warming
shown-finding-hiss = Hissing
shown-finding-dented = Dent or crease
shown-finding-punctured = Punctured
shown-finding-burnt = Burn marks
shown-finding-rusted-through = Rusted through
shown-finding-vent-open = Vent open
shown-finding-torn-wrap = Torn wrap
shown-finding-tab-remains = Tab remains
shown-finding-corroded-ends = Dirty ends
shown-family-layered-oxide = Layered oxide, 4.20 V (usual)
shown-family-high-voltage-cobalt = High-voltage cobalt, 4.35 V and more
shown-family-iron-phosphate = Iron phosphate, 3.60 V
shown-family-titanate = Titanate, 2.70 V
shown-family-primary = Primary, never charged
drain-low = low drain
drain-high = high drain
drain-mixed = low or high drain
protection-of-kind-own-board = each cell has its own protection board
protection-of-kind-pack-board = one board protects the pack
protection-of-kind-bare = bare cells, nothing protects them
protection-of-kind-mixed = some protected, some bare
shown-voltage-state-resting = At rest
shown-voltage-state-off-charger = Just off the charger
shown-voltage-state-under-charge = While charging
shown-voltage-state-under-load = Under load
shown-voltage-state-climbing = Still moving
build-wrapped-can = Round can in a wrap
build-bare-can = Round can, bare
build-flat-can = Flat metal can
build-pouch = Soft flat pouch
plus-end-button = Raised end
plus-end-can = The can itself
plus-end-marked-tab = Tab marked +
plus-end-lead = Lead measured as plus
protection-none = Not at all, bare
protection-inside = Board inside its wrap
protection-donor-board = Only by the donor's board
terminals-clean = Clean ends
terminals-stub = Stub of a strip
terminals-wires = Wires on it
terminals-soldered = Solder on it
symptom-runs-short = Runs short
symptom-cuts-out = Cuts out under load
symptom-dead = Dead
symptom-does-not-charge = Does not charge
symptom-unused = Worked, no longer used
symptom-wet-or-dropped = Got wet or fell
symptom-none = Nothing wrong with its cells
symptom-unknown = Nobody knows
charger-none = No charger
charger-linear = Linear, with a resistor
charger-switching = Switching
charger-pack-board = In the pack's board
charger-unknown = Cannot tell
converter-none = None
converter-step-up = Step-up
converter-step-down = Step-down
converter-both = Both
converter-unknown = Cannot tell
yes-no-yes = Yes
yes-no-no = No
yes-no-unknown = Cannot tell
charged-in-out = Taken out
charged-in-holder = In its holder
charged-in-device = Inside the device
part-charger-board = Charger board
part-protection-board = Protection board
part-holder = Holder
part-switch = Switch
part-sensor = Sensor
part-converter = Converter
part-connector = Connector
part-other = Other part
shown-place-tray = Tray
shown-place-holding-box = Holding box
shown-place-shelf-box = Shelf box
shown-place-out-box = Out-box
shown-place-fire-safe-box = Fire-safe box
method-meter = meter, at rest
method-tester = tester
method-trace = logged curve
method-resistor-clock = resistor and clock
method-resistor-log = resistor and log
method-charge-counted = counted by the charger
method-usb-linear = USB meter, linear module
method-usb-switching = USB meter, switching charger
method-usb-step-up = USB meter behind step-up
method-ac-1khz = meter, 1 kHz
method-dc-10s = under load, 10 s
method-dc-1s = under load, 1 s
shown-pack-planned = Planned
shown-pack-built = Built
shown-pack-given-out = Given out
shown-pack-back = Came back
shown-pack-taken-apart = Taken apart
shown-pack-dropped = Dropped
pack-action-planned = Plan
pack-action-built = It is built
pack-action-given-out = Give it out
pack-action-back = It came back
pack-action-taken-apart = Take it apart
pack-action-dropped = Drop the plan
limit-kind-physics = physics
limit-kind-standard = standard value
limit-kind-house = house rule
current-limit-sag = more would pull its voltage down by over 0.3 V
current-limit-heat = more would make it too warm in a closed case
current-limit-no-sheet = more is for cells with a data sheet
current-limit-shown = it has given that much
current-limit-sheet = its data sheet allows no more
shown-instrument-voltmeter = Voltmeter
shown-instrument-tester = Capacity tester
shown-instrument-ac-meter = 1 kHz meter
shown-instrument-usb-meter = USB meter
shown-instrument-charger = Charger that counts
shown-instrument-load = Electronic load
shown-instrument-supply = Bench supply
shown-instrument-logger = Home-made logger
log-state-waiting = waits for the reader
log-state-reading = is being read
log-state-asks = asks something
log-state-read = read
log-state-refused = cannot be read as it is
log-state-cancelled = stopped
verdict-fine = It holds its charge
verdict-watch = It loses some: watch it
verdict-leaking = It leaks: out
verdict-too-early = Too early to tell
shown-tolerance-strict = Strict
shown-tolerance-usual = Usual
shown-tolerance-relaxed = Relaxed
band-recycle = recycle
band-watched-recovery = recover under watch
band-recovery = recover slowly
band-go-on = goes on
band-over-voltage = put aside
judged-as-laptop = Laptop cells
judged-as-vape = Vape cells
judged-as-power-tool = High-drain cells
judged-as-phone = Phone cells
judged-as-other = Anything else
log-step-charge = Charge
log-step-discharge = Discharge
log-step-rest = Rest

## A run on paper

run-cannot-be = { $group ->
    [0] { $what }
   *[other] { $cell ->
        [0] Group { $group }: { $what }
       *[other] Group { $group }, cell { $cell }: { $what }
    }
}
run-wrong-resistance_not_positive = The resistance has to be above zero; that of wiring and joints zero or more.
run-wrong-capacity_not_positive = The capacity has to be above zero.
run-wrong-soc_out_of_range = The state of charge lies between 0 (empty) and 1 (full).
run-wrong-empty_group = No cell stands here.
run-wrong-table_not_increasing = A table of voltages has to rise from charge 0 to charge 1, in both of its lists.
run-wrong-unknown_chemistry = There is no table of voltages for this chemistry.
run-wrong-load_not_positive = The load has to be above zero.
run-wrong-cutoff_not_positive = A cut-off has to be above zero.
run-wrong-cutoff_not_below_start = It stands at or below its cut-off already, with nothing switched on. Charge it first, or set the cut-off lower.
run-wrong-bad_value = A number is needed here that is not there, or one of the words that are known.
load-is-too-large = { $power } is more than any pack of these cells carries, even for a moment: { $most } at most.
load-above-zero = A load is above zero.
cut-off-below-full = The cut-off of a group lies above zero and below { $full }, where the cells are full.
run-needs-resistance = Cell { $key } has no resistance; for the longest run every cell needs one.
charge-not-told-by-voltage = The resting voltage of { $cells } does not tell how full they are: their curve is flat there. Charge them to full, and start the run from full.
charge-wants-voltage = Cell { $cell } has no resting voltage that still holds. Measure it at rest, or start the run from full.
run-wants-figures = { $cells } lack a capacity or a resistance; a run on paper wants both of every cell.
paper-limits = By resistances that do not change, without warmth and without what goes on slowly inside a cell.
paper-ac-is-less = Resistances { $method } are smaller than what a load finds; the true run is shorter, most of all with large loads.
paper-methods-mixed = The resistances were measured in different ways and do not compare well.
paper-optimistic = A cell carries up to { $rate }: above 1 C this is too hopeful.

## A pack's plan: what it is built from

part-of-pack-device = what it feeds
part-of-pack-promise = what was promised
part-of-pack-converter = converter
part-of-pack-charger = charger
part-of-pack-board = board
part-of-pack-own-protection = the cells' own protection
part-of-pack-fuse = main fuse
part-of-pack-cell-fuses = fuse of each cell
part-of-pack-holder = holder
part-of-pack-wire = wire
part-of-pack-strip = strips
part-of-pack-switch = switch
part-of-pack-connector = connector
part-input-power_w = takes
part-input-current_ma = current
part-input-resistance_ohm = or a resistance of
part-input-least_v = works from
part-input-most_v = stands up to
part-input-on_share = share of the time it is on
part-input-starts_times = a motor, starting at so many times its current
part-input-standing_ma = takes always, switched off too
part-input-cuts_off_v = lets go of the pack by itself at
part-input-hours = it runs
part-input-capacity_mah = charge
part-input-at_v = at a voltage of
part-input-leaves = leaves the house
part-input-converter_kind = kind of converter
part-input-out_v = gives
part-input-efficiency_full = efficiency, pack full
part-input-efficiency_empty = efficiency, pack empty
part-input-least_in_v = its input works from
part-input-most_in_v = its input stands up to
part-input-most_out_a = gives at most
part-input-charger_kind = kind of charger
part-input-full_v = charges up to
part-input-end_ma = ends at
part-input-supply_v = its supply gives
part-input-supply_ma = its supply can give
part-input-lamp = its lamp
part-input-while_used = used while it charges
part-input-room_degc = coldest place it is charged in
part-input-series = for
part-input-over_v = a group full at
part-input-under_v = a group empty at
part-input-most_a = rated for
part-input-balance = keeps groups even
part-input-bleed_ma = bleeds
part-input-sleeps = sleeps until a charger wakes it
part-input-which = on which cells
part-input-contact_mohm = resistance of a contact
part-input-awg = gauge (AWG)
part-input-length_mm = length, there and back
part-input-material = material
part-input-thickness_mm = thickness
part-input-width_mm = width
part-input-pieces = so many side by side
part-choice-by-hand = handed over here
part-choice-post = by post
part-choice-air = on an aircraft
part-choice-step-up = step-up
part-choice-step-down = step-down
part-choice-linear = linear regulator
part-choice-low-drop = low-drop regulator
part-choice-linear-module = small linear module, one group
part-choice-cc-cv = charger for the whole pack
part-choice-singly = each group or cell by itself
part-choice-solar = solar panel with a charger
part-choice-unknown = nobody asked yet
part-choice-known = what it says stands on record
part-choice-yes = yes
part-choice-no = no
part-choice-none = no balance
part-choice-bleed = by bleeding
part-choice-active = by moving charge
part-choice-some = some cells
part-choice-all = every cell
part-name-too-long = The name of a part has { $most } characters at most.
device-takes-one-of = Say what it takes in one way: watts, milliamperes or ohms.
part-lower-above-upper = The upper voltage has to lie above the lower one.
say-how-much-it-bleeds = Say with how many milliamperes it bleeds; it stands on the board or in its sheet.
too-many-parts = A plan has { $most } parts at most.
only-one-of-part = There can be one part of this kind only: { $part }.

## The checks of a plan: name, why it is looked at

check-run-time = How long it runs
check-why-run-time = The cells' own curves and resistances, group by group, to the first end that is met.
check-end-house = The house's end
check-why-end-house = Cells that are not emptied to the last bit last longer.
check-end-board = The board's end
check-why-end-board = A board protects, it does not steer: the house's cut-off comes earlier, so that the cells last.
check-end-device = The device's end
check-why-end-device = Where the device stops by itself, whatever is still in the cells.
check-energy = Energy
check-why-energy = Milliamperehours mean nothing across a converter; watt-hours are the same on both sides but for what it burns.
check-promise-hours = The promised hours
check-why-promise-hours = Somebody will count on it.
check-promise-power = The promised watts
check-why-promise-power = At the lowest voltage the same watts take the most current.
check-promise-charge = The promised charge
check-why-promise-charge = Milliamperehours are a figure only together with their voltage.
check-window-above = Too much for the device
check-why-window-above = A full pack stands above its nominal voltage, and a device breaks by volts, not by watts.
check-window-below = Too little for the device
check-why-window-below = Below its window a device flickers, stops or draws more.
check-window-share = Energy it can use
check-why-window-share = What lies outside the device's window is carried along for nothing.
check-drop-out = Drop-out of the regulator
check-why-drop-out = A regulator needs its input to stand above its output; below that the output falls with the pack.
check-regulator-heat = Heat of the regulator
check-why-regulator-heat = A linear regulator turns what is too much into heat.
check-converter-input = The converter's input
check-why-converter-input = A step-up passes a higher input straight on to its output; any input breaks above its limit.
check-converter-output = The converter's output
check-why-converter-output = Above what it can give it throttles, or breaks.
check-standing-drain = Standing drain
check-why-standing-drain = It flows in the cupboard too, and a forgotten pack goes below its cut-off.
check-cell-current = Current of a cell
check-why-cell-current = Each cell carries a share by its own resistance, not the same as its neighbour; most at the lowest voltage.
check-one-cell-lost = With one cell lost
check-why-one-cell-lost = When one lets go, its neighbours carry its share too.
check-motor-start = A motor's start
check-why-motor-start = For a moment a motor takes several times its current, and the pack sags.
check-charger = The charger
check-why-charger = A pack that nobody can charge rightly is charged wrongly.
check-charger-full = Where the charger ends
check-why-charger-full = A cell charged above its full voltage can burn. Never a charger for another pack.
check-charger-current = Charge current
check-why-charger-current = The weakest group gets the same current as all others, and ages by it.
check-charge-hours = Hours to full
check-why-charge-hours = Constant current until the full voltage is reached, then less and less.
check-supply-volts = The supply's voltage
check-why-supply-volts = A module breaks above what it stands; below what it needs it never comes to full.
check-supply-current = The supply's current
check-why-supply-current = A supply at its limit gets hot and lets its voltage fall.
check-module-heat = Heat of the charger
check-why-module-heat = A linear module turns the difference of the voltages into heat, most with an empty cell.
check-charging-while-used = Charged while in use
check-why-charging-while-used = A load above the end current keeps the charge from ever ending: the cells float at full.
check-lamp = The charger's lamp
check-why-lamp = A lamp is not a measurement, and each charger's lamp says something else.
check-charging-cold = Charged in the cold
check-why-charging-cold = In the cold lithium plates inside the cell, and the cell is lost or worse.
check-low-cut-off = A low cut-off
check-why-low-cut-off = Without one the cells are emptied until they are dangerous to charge again.
check-balance = Balance of the groups
check-why-balance = Groups drift apart, and one is overcharged while the sum still looks right.
check-board-groups = The board's groups
check-why-board-groups = A board for another number of groups measures wrong ones.
check-board-over = The board's upper limit
check-why-board-over = It is the last thing that stops an overcharge.
check-board-under = The board's lower limit
check-why-board-under = It is the last thing that stops a discharge.
check-board-current = The board's current
check-why-board-current = A board at its limit trips or gets hot; a quarter to spare. A steady power draws most just before the board cuts off, below the end of the run.
check-bleed-time = Hours to even the groups
check-why-bleed-time = A small bleeder takes days for what groups differ by.
check-board-sleeps = A sleeping board
check-why-board-sleeps = Many boards give nothing after joining until a charger wakes them.
check-own-protection = The cells' own protection
check-why-own-protection = In a row one cell that lets go has the whole pack's voltage over it; side by side it comes back with a rush.
check-wire = A wire
check-why-wire = In a small case beside cells a wire may get 20 K warmer than the air.
check-strip = The strips
check-why-strip = A strip too thin heats the cell's end it is welded to.
check-wiring-drop = Lost on the way
check-why-wiring-drop = What the wires take the device does not get, and it is heat.
check-switch = A switch
check-why-switch = Contacts at their rating burn; a quarter to spare.
check-connector = A connector
check-why-connector = Contacts at their rating get hot; a quarter to spare.
check-holder = The holder's contacts
check-why-holder = Springs are the worst joint of a pack: each heats by the square of its current.
check-fuse = The main fuse
check-why-fuse = It protects the wire behind it from a short; the board may fail with its transistors closed.
check-cell-fuses = A fuse for each cell
check-why-cell-fuses = All neighbours of a shorted cell feed it. Each parallel cell wants a thin fuse of its own, or a reason why not.
check-pack-volts = Volts of the pack
check-why-pack-volts = Above extra-low voltage it can kill; that is no work for volunteers.
check-pack-energy = Energy of the pack
check-why-pack-energy = What can burn, and how long.
check-transport = How it leaves the house
check-why-transport = A home-made pack has passed no transport test (UN 38.3): not by post, not on aircraft, whatever its watt-hours.
check-layout-fits = Room for the cells
check-why-layout-fits = A cell that is pressed in, or stands on an edge or a screw, is damaged by every knock.
check-layout-touching = Cans side by side
check-why-layout-touching = A cylinder's whole can is its minus; a flat cell's skin is thin. Two groups that touch are a short circuit.
check-layout-reach = Poles and strips
check-why-layout-reach = A strip goes straight from a pole to its neighbours. One that crosses a pole of another group shorts it.
check-layout-strip = The piece of strip that carries most
check-why-layout-strip = The current of a whole group may go through one piece, and that one gets hot. Worked out from the net of all strips.
check-layout-ways = Ways to the leads
check-why-layout-ways = Cells near the lead give more than those far from it, and age sooner.

## The checks of a plan: the arithmetic

no-run-without-device = Nobody said what it feeds, so nobody knows how long it runs and what its parts carry.
worked-run-time-group-cutoff = { $hours }, in nine of ten cases { $low } to { $high }. Group { $group } comes to the house's cut-off first.
worked-run-time-pack-cutoff = { $hours }, in nine of ten cases { $low } to { $high }. The pack falls below what the device works from.
worked-run-time-load-not-carried = { $hours }, in nine of ten cases { $low } to { $high }. Then the pack cannot carry the load any more.
worked-run-time-about = About { $hours }; the band of what the figures leave open is not drawn here.
worked-promise-hours-about = Promised { $promised }; by the run about { $hours }.
worked-end-house = Down to the house's { $cut } a group it would go on for { $hours }.
worked-end-board = Down to the board's { $under } a group it would go on for { $hours }.
worked-end-device = The device stops below { $ends }, after { $hours }.
worked-end-device-never = The device works down to { $ends }; a group would be ruined before that.
worked-energy = { $outlet } come out; { $cells } leave the cells' chemistry. At the pack that is { $charge } at { $mean } in the mean.
worked-promise-hours = Promised { $promised }; by the run { $hours }, in nine of ten cases { $low } to { $high }.
worked-promise-power-unknown = What some of its cells may give all the time is not known.
worked-promise-power = Its weakest group may give { $carries }; times { $lowest } at the end, times { $share } of the converter, is { $most }.
worked-promise-charge-no-volts = Promised { $promised } without a voltage. What comes out is { $energy }.
worked-promise-charge = { $promised } at { $at } are { $energy }; what comes out is { $outlet }, { $really } at that voltage. The pack's own { $charge } are at its own.
worked-window-above = It gets { $given } at most; it stands { $most }.
worked-window-below = It gets { $given }; it works from { $least }.
worked-window-share = { $share } of what the pack could give lies where the device works, above { $ends }.
worked-drop-out = { $out } and { $drop } are { $needs }; the pack is empty at { $empty }.
worked-regulator-heat = ({ $full } − { $out }) × { $current } = { $heat } with a full pack.
worked-converter-input = The full pack stands at { $full }; the input takes { $most } at most.
worked-converter-output = The device takes { $current }; it gives { $most } at most.
worked-standing-drain = { $charge } / { $drain } = { $weeks } from full to empty, with nothing switched on.
worked-cell-current = { $cell } carries up to { $peak }; it may give { $most }.
worked-one-cell-lost = Without { $lost }, { $cell } carries { $current } at the end of the run; it may give { $most }.
worked-motor-start = { $times } × is { $current } for a moment: through { $ohm } the empty pack sags to { $sags }; it is cut off at { $least }.
worked-charger-none = Nobody said what charges it.
worked-charger-full-series = A module for one group cannot charge { $groups } in a row.
worked-charger-full-above = It ends at { $ends }; { $series } × { $cell } are { $wanted }.
worked-charger-full-below = It ends at { $ends }, below { $series } × { $cell } = { $wanted }: a part charge.
worked-charger-full-right = It ends at { $ends }; { $series } × { $cell } = { $wanted }, within { $within }.
worked-charger-current = { $current } into a weakest group of { $weakest } is { $rate }.
worked-charge-hours = { $hours } from empty with { $current }: { $cc } at the full current, { $cv } while it falls.
worked-supply-volts = The supply gives { $supply }; the module wants { $least } to { $most }.
worked-supply-below = The supply gives { $supply }, and the charger has to come to { $full }.
worked-supply-above = The supply gives { $supply }; the charger comes to { $full }.
worked-supply-current = It takes { $taken }; { $share } × { $supply } are { $most }.
worked-module-heat = ({ $supply } − { $cell }) × { $current } = { $heat } at first.
worked-while-used-unknown = Nobody said whether it is used while it charges. The charge ends at { $ends }.
worked-while-used-no-run = It is used while it charges, and nobody said how much it takes. The charge ends at { $ends }.
worked-while-used = The device takes { $load } from the full pack; the charge ends at { $ends }.
worked-lamp-known = What its lamp says stands on record.
worked-lamp-unknown = Nobody wrote down what its lamp says.
worked-cold-freezing = It is charged at { $room }; below 0 °C never.
worked-cold = It is charged at { $room } with { $rate }; below 10 °C at most { $most }.
worked-low-cut-off-board = The board stops at { $under } a group.
worked-low-cut-off-own = Every cell stops itself at { $under }.
worked-lets-go-device = The device lets go at { $cuts }; the house's cut-off is { $house }.
worked-lets-go-series = The device lets go at { $cuts } of the whole pack; of several groups the weakest may be far below by then.
worked-low-cut-off-none = Nothing stops it when it is empty.
worked-balance-bleed = The board bleeds the fullest group.
worked-balance-active = The board moves charge between the groups.
worked-balance-singly = Each group is charged by itself.
worked-balance-none = { $series } groups in a row, and nothing keeps them even.
worked-board-groups = A board for { $board } groups on { $series }.
worked-board-over = It stops a charge at { $over }; the cells are full at { $full }, and their family bears { $most } at most.
worked-board-under = It stops at { $under }; the family bears { $least } at least.
worked-rated = { $times } × { $current } = { $wanted }; it is rated for { $rated }.
worked-bleed-time = { $spread } between the groups / { $bleed } = { $hours }.
worked-board-sleeps-yes = It gives nothing after joining until a charger wakes it.
worked-board-sleeps-unknown = Nobody said whether it sleeps after joining.
worked-own-protection-series = Cells with their own protection in a row: each has to stand the whole pack's voltage when it lets go.
worked-own-protection-parallel = Cells with their own protection side by side: one that comes back is charged in a rush by its neighbours.
worked-own-protection-both = Cells with their own protection in a row and side by side: each has to stand the whole pack's voltage when it lets go, and comes back with a rush.
worked-carries = It carries { $current } and stands { $most }; { $ohm }, { $heat } of heat.
worked-wiring-drop = { $current } × { $ohm } = { $drop }, { $share } of the lowest voltage; { $heat } of heat.
worked-holder = { $current } through each contact of { $ohm }: { $heat } of heat in each.
worked-holder-unrated = { $current } through each contact of { $ohm }: { $heat } of heat in each. Nobody said what it stands.
worked-fuse-none = There is none; here it has { $least } to { $most }.
worked-fuse-wire = It blows above { $fuse }; the thinnest wire stands { $wire }.
worked-fuse = { $fuse } for { $current }: 1.5 to 2 times are { $least } to { $most }.
worked-cell-fuses-none = { $parallel } cells side by side, and none has a fuse of its own.
worked-cell-fuses-unknown = { $fuse } each; what a cell gets from its neighbours when it is shorted is not known without every resistance.
worked-cell-fuses = { $fuse } each; a cell carries { $peak } and gets { $fault } from its neighbours when it is shorted.
worked-house-pack-volts = { $value } full; by default { $usual }, with a coordinator's yes { $most }.
worked-house-pack-energy = { $value }; by default { $usual }, with a coordinator's yes { $most }.
worked-transport-by-hand = Handed over here, never by post or on an aircraft.
worked-transport-post = By post.
worked-transport-air = On an aircraft.
worked-layout-overlap = { $count ->
    [one] { $cells } stands where another does.
   *[other] { $cells } stand where others do.
}
worked-layout-free = The cells take { $length } by { $width }; with strips they are { $height } high. No case was said.
worked-layout-fits = The cells take { $length } by { $width } and are { $height } high with strips; inside it is { $case_length } by { $case_width } by { $case_height }.{ $outside ->
    [0] { "" }
   *[other] { " " }Outside, or where something else is: { $cells }.
}
worked-layout-touching = { $count ->
    [0] Cans of different groups are { $apart } apart or more.
    [one] { $first } and { $second } are of two groups and less than { $apart } apart.
   *[other] { $count } pairs of two groups are less than { $apart } apart, such as { $first } and { $second }.
}
worked-layout-spacers = { $count ->
    [0] Cans of different groups are { $apart } apart or more.
    [one] One pair of two groups stands close; something lies between them.
   *[other] { $count } pairs of two groups stand close; something lies between them.
}
worked-layout-reach = { $count ->
    [0] Each strip lies on one face and reaches all its poles.
    [one] No strip reaches a pole of { $cells }.
   *[other] No strip reaches poles of { $cells }.
}
worked-layout-strip = From { $first } to { $second } { $current } go through one piece of { $thick } by { $wide }{ $pieces ->
    [1] { "" }
   *[other] , { $pieces } on one another
}; that stands { $most }.
worked-layout-ways-more = By its way { $cell } gives { $apart } more than its share.
worked-layout-ways-less = By its way { $cell } gives { $apart } less than its share.

## The checks of a plan: what would mend it

mend-run-time = Say what it feeds, and see to it that every cell has a capacity and a resistance.
mend-smaller-load = A smaller load, or more cells side by side.
mend-end-board = Nothing is wrong with the cells; the pack gives less than the house's rules allow.
mend-end-device = A device that stops higher, or a board that stops it before.
mend-promise-hours = Promise { $hours }, or put { $parallel } cells side by side, or take a smaller load.
mend-more-parallel = More cells side by side, cells that may give more, or a smaller load.
mend-promise-power = Say in the cell library what these cells may give all the time, by a source, or promise no power.
mend-promise-charge-volts = Say at which voltage; better still, promise watt-hours.
mend-promise-charge = Promise { $really } at { $at }, or build a larger pack.
mend-window-above = One group less in a row, or a step-down before it.
mend-window-below = A converter that gives more.
mend-window-share = Another number of groups in a row, or a converter.
mend-drop-out = A low-drop regulator, one group more, or a switching converter.
mend-regulator-heat = { $state ->
    [stop] Another way: a switching converter.
   *[other] A heat sink on it, with air around.
 }
mend-converter-input = Fewer groups in a row, or a converter that bears it.
mend-standing-drain = A switch before it, or a word on the visitor's card: charge it every few weeks.
mend-one-cell-lost = Enough with all cells well; a pack that gets weak is looked at before it is used on.
mend-motor-start = A soft start, cells of less resistance, or more of them side by side.
mend-motor-start-trips = A board that bears the start, or a soft start.
mend-charger = Put the charger on the plan.
mend-charger-full-series = A charger for the whole pack, or a module for each group by itself.
mend-charger-full-above = Take the charger that belongs to these cells and this many groups.
mend-charger-full-below = Nothing dangerous; the pack runs shorter than on paper.
mend-charger-current = At most { $most }.
mend-supply-volts = A plain 5 V supply.
mend-supply-below = Only a charger that steps up can do that; ask, or take a higher supply.
mend-supply-current = A stronger supply, or a smaller charge current.
mend-module-heat = It throttles and takes longer; a smaller current, or air around it.
mend-while-used-unknown = Ask, and put it on the plan.
mend-while-used = Switch it off while it charges, or take a charger that feeds the load by itself.
mend-lamp = Write down what each colour means, and measure at the end.
mend-cold-freezing = Bring it into a warm room first.
mend-cold = Charge it in a warm room, or with at most { $most }.
mend-low-cut-off = A board with a low cut-off, or protected cells.
mend-balance = A board with balance, or charge each group by itself.
mend-board-groups = A board for exactly this many groups.
mend-board-over-above = A board for this family of cells.
mend-board-over-below = It stops the charge early: the pack never gets full.
mend-board-under = A board for this family of cells.
mend-board-current = A board for { $wanted } or more.
mend-bleed-time = Groups that hold more alike, or a board that bleeds more.
mend-board-sleeps = After joining wake it with its charger, before it is called broken.
mend-own-protection = A board for the whole pack instead, where you can.
mend-conductor-wire = A thicker wire.
mend-conductor-strip = A thicker or wider strip, or two side by side.
mend-wiring-drop = Thicker or shorter wires, better contacts.
mend-rated = One rated for { $wanted } or more.
mend-holder = Weld them, or ask what its springs stand.
mend-fuse-none = A fuse at the plus, as near to the cells as it can be.
mend-fuse-wire = A smaller fuse or a thicker wire: the wire would burn first.
mend-fuse-low = It may blow in use; take a larger one.
mend-fuse-high = It blows late; take a smaller one.
mend-cell-fuses = A thin fuse wire at each cell; or a coordinator writes down why none is needed.
mend-cell-fuses-large = A smaller fuse: this one never blows.
mend-cell-fuses-small = It may blow in use; take a larger one.
mend-house-pack-volts = A coordinator says yes with a reason, or fewer groups.
mend-house-pack-volts-never = Not here. Ask a licensed workshop.
mend-house-pack-energy = A coordinator says yes with a reason, or fewer cells.
mend-house-pack-energy-never = Not here. Ask a licensed workshop.
mend-transport = Handed over here and carried home, or not at all.
mend-layout-overlap = Draw them apart.
mend-layout-anew = Say its size, or keep another layout.
mend-layout-high = A higher case, or the cells the other way.
mend-layout-fits = A larger case, or another of the proposals.
mend-layout-touching = Holders, or fish paper between the groups and a ring under each plus; then tick it.
mend-layout-reach = Turn the cell over, or put it beside its group.
mend-layout-strip = A thicker or wider strip, two on one another, or more links side by side.
mend-layout-ways = Join the lead in the middle of the group, or take a thicker strip.

part-twice-in-plan = One kept part stands twice in this plan.
kept-part-is-gone = This kept part is no longer here. Take another.
kept-part-in-pack = Pack { $pack } has this kept part already. Take another.
parts-not-in-state = Pack { $pack } is { $state }: what it is built from cannot be changed now.
doing-waiving-check = Letting a check pass
no-such-check = There is no such check on this pack now. Look at its checks once more.
check-stops-nothing = "{ $check }" stops nothing.
refused-step-wrong = { $count ->
    [one] A step of its building stands wrong.
   *[other] { $count } steps of its building stand wrong.
}
to-do-step-wrong = Mend the joint, then measure that step anew.
voltage-is-a-slip = { $value } cannot be here, where { $most } is the most. Is a point in the wrong place, or is it the reading of another point?
log-without-discharge = There is no discharge in this log.
not-the-next-step = { $step } is not what comes next. Look again: somebody may have gone on.
no-such-step = There is no step { $step }.
nothing-to-confirm = At { $step } there is nothing to confirm.
second-person-confirms = { $by } did it, so somebody else looks at it. Above the house's limits two pairs of eyes are the rule.
only-the-last-step = { $step } was not the last one; take back the last one first.
pack-not-built-now = { $pack } is { $state }; it is built step by step only as long as it is planned.
case-cannot-be = Between 1 and { $most } mm is what a case and the places in it can have.
keep-out-cannot-be = What is kept out needs a place and a size between 0 and { $most } mm.
layout-no-cells = Pack { $pack } has no cells any more: there is nothing to lay out.
layout-too-many = { $count } cells are too many to be drawn; up to { $most } are.
layout-size-unknown = { $count ->
    [one] The size of { $cells } is not known; measure it first.
   *[other] The sizes of { $cells } are not known; measure them first.
}
layout-shapes-mixed = Cylinders and flat cells are not drawn in one pack.
layout-other-cells = This is no layout of { $pack }: each of its { $count } cells stands in it once, in an arrangement that its shape allows.
no-layout-kept = No layout of { $pack } is kept yet. Draw it first.
layout-file-no-json = This is no JSON file. A layout saved here is one.
layout-file-other = This is no layout: "format" has to be "{ $format }" and "version" { $version }.
layout-file-lacks = Something in the layout is missing or cannot be: { $what }.
check-is-never-waived = "{ $check }" protects people and is never waived. Mend it.
cell-not-in-this-pack = { $cell } is not in this pack.
cell-in-this-pack-already = { $cell } is in this pack already.
cell-cannot-come-into-run = { $cell } is of another chemistry, or nobody measured what it holds.
group-would-be-empty = A group would be left without a cell.

check-state-stop = Stop
check-state-look = To look at
check-state-holds = Holds

## Joining

joining-wants-voltages = { $cells } have no resting voltage that still holds. Measure all before joining.
joining-wants-fresh-voltages = The resting voltages of { $cells } are older than { $days }. Measure all before joining.
join-needs-nothing = Nothing: they lie within the limit.
join-needs-charger = { $slots } slots and a charger that ends at { $full }. The longest takes { $longest } at half its capacity an hour, all one after another { $together }; then { $rest } of rest and a new voltage each.
join-needs-singly = One small charger and somebody who looks: { $count } cells are brought up to { $highest } one after another, { $together } together; then { $rest } of rest and a new voltage each.
join-needs-resistors = { $count } resistors of { $resistor }, { $rated } each, one from each cell to a common point, all minus poles joined. At first { $current } and { $heat } in the worst; they meet at { $common }.
join-way-as-they-lie = As they lie
join-way-charger = All to full by charger
join-way-resistors = Through resistors
join-way-singly = One by one
join-why-flat = Where they rest their voltage says nothing about their charge: equal voltages may be half a charge apart. Full is the one state that can be told.
join-why-as-they-lie = They lie within the limit: what flows at first is small.
join-why-quickest = { $way } is the quickest here: { $hours }.
refused-voltage-old = The resting voltage of { $cells } is older than { $days }.

## A device that gets another cell

recell-never-primary = Its cell is one that is never charged. Nothing rechargeable goes into its place.
recell-not-family = another chemistry
recell-not-full-voltage = another full voltage
recell-not-size = does not fit
recell-not-current = gives less than it takes
recell-not-protection = no protection of its own, on which the device counts
recell-charger-too-fast = Its charger would charge it at { $rate }: change its resistor to { $resistor } or more first.
recell-charger-slow = Its charger charges it at { $rate } only; { $resistor } would be half its capacity an hour.
recell-current-unknown = Nobody knows what it may give; look at it warm after a minute of the device's most.
recell-never-polarity = Never by the colour of the leads: measure which is plus on both, and on the connector.
recell-never-heat = Never solder on the cell itself; on its tabs, quickly, or weld.
recell-never-press = Never press it in: 8 to 10 % of its thickness stay free for swelling, and no edge or screw touches it.
recell-never-sensor = Never leave the temperature sensor hanging: it goes onto the new cell, or the device charges blind.
recell-never-protection = Never a bare cell where the old one had a protection inside, unless a board is put in.
recell-never-charger = Nobody knows its charge current: measure it once at the first charge, at most half the new cell's capacity an hour.
never-old-charger-alkaline = Never charge ours in anything made for these cells, and never mix both: alkaline cells are not charged at all.
never-old-charger-nimh = Never the old charger: it drives its current until nickel gets warm or its voltage dips ({ $cell } a cell, { $old } together), and ours end at { $ours } with falling current and show neither.
never-old-charger-lead-acid = Never the old charger: it holds { $old } and more for ever, and ours end at { $ours }; a lead charger's boost overcharges them.
say-which-size-it-has = Say which size the old cell has: 18650, or 603048 for a flat one.
print-waived = Let pass by { $by }: { $check }. { $finding } Reason: { $why }
part-wants-whole-number = A whole number from 1 to { $most }.
efficiency-below-least = { $share } is no efficiency of a converter that works: from { $least } to 1, as 0.9.

## The card that goes with a pack

card-what = { $cells } salvaged cells, { $family }. { $nominal } in the middle, { $full } when full, { $energy }.
card-runs = Full, it runs { $hours } at least.
card-head-charging = Charging
card-charged-here = The house charges it. Bring it; no charger of yours fits.
card-charge-with = Only with its own charger: it ends at { $ends } and gives { $current }, from a { $supply } supply.
card-charge-hours = From empty to full: { $hours }.
card-charge-not-in-use = Switch it off while it charges.
card-charge-in-use = It may be used while it charges.
card-charge-where = On stone or metal, nothing that burns near it, somebody awake and in the room.
card-charge-cold = In a warm room. Never below 0 °C.
card-store = Not in use: half full, cool and dry; charge it every { $count ->
    [one] week
   *[other] { $count } weeks
 }.
card-head-never = Never
card-never-open = Never open it, never pierce or press it.
card-never-wet = Never wet, never in the sun behind glass, never on a heater.
card-never-other-charger = Never another charger, even if its plug fits.
card-never-metal = Never metal across its plug.
card-never-post = Never by post, never on an aircraft: it has passed no transport test.
card-head-back = Bring it back
card-back-short = When it runs less than { $hours }.
card-back-warm = When it gets warm, in use or while it charges.
card-back-swells = When it swells or its case gapes.
card-back-smells = When it smells sweet or sharp.
card-back-fell = When it fell hard or got wet. Do not charge it first.
card-back-stops = When it does not switch on, or its charge does not end.
card-head-hot = When it is hot, hisses or smokes
card-hot = Unplug it if you can do so at once. Out into the open, or away from it: do not breathe the smoke. Much water cools it.
card-hot-call = Call the fire service, and say: lithium battery.
card-head-left = What its voltage says
card-left = left
card-left-in-use = in use
card-left-at-rest = after an hour at rest
card-from-built = Pack { $pack } is { $state }: a card goes with one that is built and sound.
pack-label-what = { $shape }, { $family }. { $nominal }, full { $full }, { $energy }.
pack-label-charge = Charge: { $ends }, { $current }. No other charger.
pack-label-charged-here = Charged by the house only.
pack-label-most = At most { $most }.
pack-label-made = Made { $day } of salvaged cells.
pack-label-never = Do not open, pierce, wet, heat or post. Hot or swollen: out into the open.

## Building step by step

step-ready = What to have at hand
step-rings = Insulate
step-place = Group { $group }: put its cells in place
step-join = Group { $group }: join its cells
step-group = Group { $group }: measure it
step-link = Join group { $first } to group { $second }
step-link-last = Join group { $first } to group { $second }: the last link
step-fuse = The fuse
step-tap = Balance lead { $tap }
step-plug = The plug, last of all
step-board-one = The board
step-wrap = Close it
at-hand-always = Meter, tape, fish paper, insulated tools, gloves for sharp edges, glasses.
at-hand-weld = Spot welder, set on a piece of scrap first, and strip cut to length.
at-hand-solder = Hot iron with a broad tip, flux, thick tin; tabs only.
at-hand-holder = The holder, its springs and contacts cleaned.
at-hand-board = The board with its leads, the balance plug off.
caution-alone = Not alone: somebody in the room knows what you do.
caution-metal = Ring and watch off, nothing in the breast pocket, nothing of metal on the table but the tool in hand.
caution-sand = Sand or vermiculite within reach, the way out free.
caution-can = The whole can is minus. Bare metal within a millimetre of plus is a short.
caution-one-terminal = One terminal at a time, tape on the other.
caution-link = From here on { $volts } are at hand: one tool, one hand.
caution-fuse = Main plus stays off until the fuse is in.
caution-tap = The plug stays off the board. A lead on the wrong tap kills the board, or worse.
caution-plug = Look at each tap once more: minus first, each higher than the one before.
caution-wrap = No edge, screw or wire end presses on a cell.
caution-first-charge = Stay beside it. Stop it when a cell gets warm or the voltage goes on rising.
caution-load = Feel the cells and joints often; what is too warm to hold is switched off.
caution-joint-weld = Two or three spots a side, each pulled at; a weld that comes off is made anew beside the old one.
caution-joint-solder = Never on the can: heat through the seal ruins it. Three seconds on the tab, then let it cool.
caution-joint-holder = Turn each cell once in its contacts; one that gets warm is changed.
todo-rings = A ring on each plus, fish paper between the groups.
todo-pouch-paper = Fish paper between the cells, tabs bent apart and taped one by one.
todo-place = Put each cell where it stands in the drawing, the end up that is written here.
todo-joint-weld = Weld strip over the pluses, then over the minuses.
todo-joint-solder = Solder tab to tab, plus to plus, then minus to minus.
todo-joint-holder = Push them into the holder, plus to plus.
todo-group = Measure across the group.
todo-link-face = Weld the link on the { $face } face.
todo-paper = Paper over what is joined before the next.
todo-fuse = Put the fuse into main plus, its holder insulated.
todo-tap-first = Solder the lead for minus. It comes first.
todo-tap = Solder the lead, then measure from minus at the plug.
todo-tap-at = It is joined at { $cell }.
todo-plug = Push the plug onto the board. Nothing may spark, smell or get warm.
todo-board-one = Minus to the board first, then plus.
todo-wrap = Paper, then wrap or case; leads held so that nothing pulls at a joint.
asked-group = Group { $group }
asked-across = Across groups { $first } to { $last }
asked-tap = Tap { $tap } against minus
asked-pack = Pack, minus to plus
asked-behind-board = Behind the board
asked-group-full = Group { $group } when it stopped
asked-load-current = Current
asked-group-before = Group { $group } before
asked-group-loaded = Group { $group } under load
asked-cells-warm = Warmest cell
asked-board-warm = Board
asked-power-in = Power in
asked-power-out = Power out
asked-hours = Ran for
asked-group-end = Group { $group } at the stop
asked-energy = Energy out

## Proving

prove-groups = Every group, before the board
prove-polarity = Polarity
prove-taps = Every tap
prove-pack = The whole pack
prove-board = The board is awake
prove-charge = The charge stops by itself
prove-load = Under its load
prove-run = Run to the stop
prove-energy = Energy out
prove-storage = Stored
todo-prove-groups = Measure each group at its own poles, beginning at minus.
todo-prove-polarity = Plus and minus are where the print and the plug say. Measured, not looked at.
todo-prove-taps = Measure each tap against minus at the balance plug.
todo-prove-pack = Measure at the pack's own poles, before the board.
todo-prove-board = Measure where the device is joined.
todo-prove-charge = Charge it with its own charger until that stops.
todo-prove-charge-here = Charge it to full with a supply that ends at the pack's full voltage.
todo-prove-charge-watch = Read each group when it stopped by itself.
todo-prove-load = Measure each group, switch its load on, and measure again after ten seconds.
todo-prove-run = Let it run until it stops by itself. On paper { $hours }, group { $group } first.
todo-prove-run-unknown = Let it run until it stops by itself. Nobody could say how long.
todo-prove-energy = Read the energy of that run from a meter or a tester's log.
todo-prove-storage = Charge it to { $volts }, at which it keeps best.
finding-right = As it should be.
finding-reversed = { $value }: the wrong way round.
finding-nothing = { $value }: next to nothing.
finding-group-off = { $value } lies outside { $least } to { $most }.
finding-group-not = Group { $group } reads { $value }, outside { $least } to { $most }.
finding-one-turned = { $value } instead of { $expected }: two groups too little, so one stands the wrong way round.
finding-one-missing = { $value } instead of { $expected }: one group is missing.
finding-link-off = { $value } lies outside { $least } to { $most }.
finding-other-tap = Tap { $tap } reads { $value }: that is what tap { $other } should read.
finding-tap-off = Tap { $tap } reads { $value }, outside { $least } to { $most }.
finding-groups-moved = All groups stand by about { $moved } beside what they were joined at: it was charged or used since.
finding-groups-apart = Groups { $low } and { $high } lie { $apart } apart; { $within } are allowed.
finding-pack-off = { $value } lies outside { $least } to { $most }, the sum of the groups.
finding-board-asleep = { $value }: nothing comes out.
finding-board-off = { $value } lies outside { $least } to { $most }.
finding-full-above = Group { $group } stopped at { $value }, above { $most } (it should end between { $least } and that).
finding-full-below = Group { $group } stopped at { $value }, below { $least } (it should end between that and { $most }).
finding-full-apart = At full groups { $low } and { $high } lie { $apart } apart; the limit is { $limit }.
finding-cells-hot = A cell has { $warm }; { $most } is the limit.
finding-board-hot = The board has { $warm }; { $most } is the limit.
finding-joint-high = Group { $group } sags { $sags } where { $wanted } were worked out: about { $more } too much.
finding-more-out = { $share } of what goes in comes out: that cannot be.
finding-converter-loses = Only { $share } of what goes in comes out; { $usual } are usual.
finding-run-too-low = Group { $group } was at { $value } at the stop, below { $least }.
finding-run-short = It ran { $hours } where { $expected } were worked out; group { $group } was lowest.
finding-energy-low = { $energy } came out of { $expected }, { $share }.
finding-storage-off = { $value } lies outside { $least } to { $most }.
then-reversed = Swap the leads of the meter. If it stays, a cell or a lead is turned over: undo this joint before anything else.
then-nothing = Press the meter onto bare metal. If it stays, a joint is open: measure each cell.
then-group-off = Measure each of its cells. One that is far off is taken out and looked at; a joint that is open is made anew.
then-group-not = Measure each cell of group { $group }, then its joints.
then-one-turned = Measure each group; the one that is turned has its sign the other way. Undo its links first.
then-one-missing = Measure each group; where all are right a link is open.
then-link-off = Measure each group again, then across the link under a small load: a good one shows nothing.
then-other-tap = Unsolder it and put it onto its own tap. The plug stays off.
then-tap-off = Measure group { $group } at its poles. If that is right, the lead is broken or badly soldered.
then-groups-moved = Nothing is wrong by that; what follows is held against these readings.
then-groups-apart = Charge group { $low } alone to the others, then measure anew after a rest.
then-pack-off = Measure each link: one that shows a voltage is a joint to be made anew.
then-board-asleep = Join the charger for a second: many boards wake by that. Else go through the questions below.
then-board-off = Measure before the board. If that is right, the board or its leads take it: feel for warmth.
then-full-above = Not used, not charged again until charger and board are looked at: one of them is set for another pack.
then-full-below = Does the charger end for another number of groups, or does the board cut off early because one group is full?
then-full-apart = Group { $low } is short of charge or leaks: charge it alone, let all rest for a day, and measure anew.
then-full-look = Group { $low } lags behind. Leave it on the charger so that the board can even it out, and measure again.
then-cells-hot = Switch it off. Look for the joint or the cell that is warmest.
then-board-hot = Switch it off. The board is too small for this load, or badly cooled.
then-joint-high = Under load measure from cell to strip in group { $group }: the joint that shows a voltage is made anew. If none does, it is the cells.
then-more-out = Two meters that differ, or one set to the wrong range. Measure both at once.
then-converter-loses = It runs less than promised. Another converter, or a voltage nearer to what the device wants.
then-run-too-low = The cut-off comes too late for these cells: look at the board's lower limit.
then-run-short = Measure the capacity of group { $group } alone, or its joints under load.
then-energy-low = Measure again from a full pack. If it stays, say less on the card, or exchange the weakest group.
then-storage-off = Charge or discharge it to there, then let it rest and read again.

## Nothing comes out of it

trouble-switch = Is its switch on, and every plug in?
trouble-switch-off = No
trouble-switch-on = Yes
trouble-poles = What does the meter say at the pack's own poles, before the board?
trouble-fuse = What does it say across both ends of the fuse?
trouble-groups = And each group at its poles?
trouble-behind = And behind the board, where the device is joined?
trouble-wake = Join the charger for a second. And now?
trouble-taps = The plug off the board: each tap against minus?
trouble-device = Switch the device on and watch the meter behind the board.
trouble-as-expected = About what its groups add up to
trouble-nothing = Next to nothing
trouble-one-group-less = About one group less
trouble-negative = The right figure, with a minus before it
trouble-all-of-it = The whole voltage
trouble-one-nothing = One shows nothing
trouble-one-turned = One has its sign the other way
trouble-one-empty = One is far lower than the others
trouble-all-right = All as they should be
trouble-little = A volt or two, and sinking
trouble-woke = It is there
trouble-still-nothing = Still nothing
trouble-tap-missing = One shows nothing, or what another should
trouble-tap-low = One group is far lower than the others
trouble-falls = It falls to nothing
trouble-talks = It stays, but the device wants a supply that talks first
trouble-stays = It stays, and the device does nothing
trouble-do-switch = Switch it on, push the plugs home.
trouble-do-turned = A group or a lead is the wrong way round. Take the fuse out, undo that joint, measure again.
trouble-do-fuse = The fuse has gone. Look for what it saved you from before a new one goes in.
trouble-do-joint = A joint of that group is open: make it anew.
trouble-do-empty = That group is empty, and the board keeps the pack off. Measure its cells: what lies too low goes its own way first.
trouble-do-link = A link between two groups is open: measure across each, the one that shows a voltage is it.
trouble-do-board-broken = The board is broken, or a lead to it. Another board; never around it.
trouble-do-slept = It slept, as many boards do after joining. Write it on the card: wakes by its charger.
trouble-do-tap = A balance lead is loose or on the wrong tap. Off the board, soldered anew, measured, then the plug.
trouble-do-trips = The load is more than the board gives, or a contact is weak: measure the current, feel the joints.
trouble-do-talks = Such a device asks for its voltage first. It needs a supply that answers, not a bare pack.
trouble-do-device = The pack is right. Look at the device.

limits-about-building-and-proving = Building and proving
limit-step_group_v = a measured voltage may lie so far beside what was worked out, a group
limit-prove_full_v = a group may end its charge so far beside full
limit-prove_spread_well_v = groups lie so near at full where all is well
limit-prove_spread_fails_v = groups so far apart at full are a failure
limit-prove_sag_share = a group may sag so much more than was worked out
limit-prove_cell_degc = a cell under its load
limit-prove_board_degc = a board under its load
limit-prove_low_share = of what was worked out or promised so much has to come
limit-promise_off_share = promises that are off by more are told to be mended
limit-card_hours_least = a card says at least so much of the hours that were worked out
limit-card_hours_times = a card says so much of the hours that were worked out

## Out, and back

too-many-words = Up to { $most } characters.
report-of-given-out = { $pack } is { $state }; what is told of it counts once it was given out.
report-wants-words = Say it in a few words, up to { $most } characters, or how many hours it ran.
return-of-back = { $pack } is { $state }, it did not come back. Say first that it is back.
return-wants-all-groups = Measure all { $series } groups, from minus on, or none.
return-first = First what is wrong with { $pack }, how it looks and what its groups read.
stopped-goes-apart = { $pack } is stopped; it only goes apart.
no-such-page = There is no such page, or it was taken back.
seen-swollen = swollen
seen-smells = smells
seen-hot = got hot
seen-leaks = leaks
seen-wet = wet
seen-fell = fell
seen-case-broken = case broken
seen-charger-changed = another charger was used
back-danger = It is { $what }.
then-back-danger = Nobody charges or uses it. Out, onto stone or metal, and apart one cell at a time, by somebody who has done it.
back-open = It: { $what }.
then-back-open = Open it and look at every cell before anything flows.
back-ruined = Group { $group } reads { $value }, below { $least }: ruined.
then-back-ruined = It is not charged again. Apart, or its cells exchanged.
back-overfull = Group { $group } reads { $value }, above { $most }: overcharged.
back-even = The groups lie { $apart } apart, as they may.
then-back-even = So it is the whole of it, a joint, the board or the device: prove it again, the load above all.
back-odd-low = Group { $group } reads { $value } where the others have { $others }.
back-odd-high = Group { $group } reads { $value } where the others have { $others }.
then-back-odd = Open it, take group { $group } apart and measure its cells one by one; exchange the one that is bad.
back-nothing = Nothing was seen on it.
then-back-nothing = Measure its groups, then prove it again.
promises-few = { $count ->
    [one] One pack was told of: it ran { $share } of what was worked out.
   *[other] { $count } packs were told of: in the middle they ran { $share } of what was worked out.
}
promises-true = { $count } packs were told of: in the middle they ran { $share } of what was worked out. The cards say it rightly.
promises-off = { $count } packs were told of: in the middle they ran { $share } of what was worked out. The cards promise something else.
page-from = Made of { $cells } cells out of { $donors ->
    [one] one device
   *[other] { $donors } devices
} that others threw away.
page-built = Joined on { $day }.
page-proved = Proved on { $day }.
page-gave = It gave { $energy } in one run then.

## Recalls, and packs from elsewhere

doing-calling-back = Calling packs back
recall-wants-text = Say what to look for: a number, a model, a name or a few words.
recall-wants-day = Say from which day on, and until which.
recall-of-none = No pack falls under this, so there is nothing to call back.
no-such-recall = There is no such recall.
letter-to-whom = To whoever has this pack
letter-head = Please stop using { $pack }
letter-stop = Do not use it and do not charge it, also if it seems to be well.
letter-bring = Bring it back to us by hand, not by post. Carry it on its own, nothing of metal beside it.
letter-hot = If it is hot, swells, smells or hisses: out of the house, away from everything that burns, and call the fire service.
letter-free = You get another one, or it is mended; either costs nothing.
letter-day = { $day }
taken-in-shape = From 1S1P up to { $most } cells in all are taken in.
taken-in-family = Say what its cells are: without that nobody knows what is full.
taken-in-look-first = Look at it first: swollen, leaking, hot or broken packs are not taken in; they go apart outside.
return-decision-mend = Mend a joint or a part
return-decision-replace = Exchange cells
return-decision-retire = Take it apart
return-decision-again = Give it out again
recall-about-donor = From a donor, by its number
recall-about-model = Of a model or a size
recall-about-batch = From donors described like this
recall-about-part = With a part named like this
recall-about-volunteer = Measured or built by somebody
recall-about-made-on = Planned on these days
recall-about-opened-on = From donors opened on these days

## Evenings at the testers

evening-cell-twice = There are two cells { $cell }. Each has a name of its own.
evening-bad-minutes = { $what } are whole minutes from { $least } to { $most }.
evening-no-channel = No channel can do step { $step } of { $cell }: by format, current or class.
evening-too-long = Step { $step } of { $cell } is longer than the longest evening on every channel that can do it.
evening-bad-input = { $what } is missing or cannot be read. docs/evening.md tells the form.

## Testers on the wire

limits-about-testers-on-the-wire = Testers on the wire
limit-charged_in_most_share = more put in than this times what a cell is believed to hold stops the charge
limit-over_time_times = a charge or discharge that takes longer than this times its plan is stopped
limit-same_cell_within_v = a cell put in a slot reads within this of its last voltage
limit-watchdog_s = a tester that hears nothing for so long ends its currents
limit-contact_back_s = a lost contact that is back within this goes on
limit-somebody_here_min = so long a charge goes on after somebody last said that they are here
thing-slot = a slot
instrument-kind-load = electronic load
instrument-kind-supply = bench supply
instrument-kind-logger = home-made logger

program-charge = Charge
program-rest = Rest
program-capacity = Capacity
program-cycle = Whole cycle
program-pulse = Resistance
program-storage = To storage
program-means-charge = Charges to full.
program-means-rest = Waits until a discharge may begin.
program-means-capacity = Resistance by a pulse, capacity, then charged for the shelf.
program-means-cycle = Charged to full, rested, resistance by a pulse, capacity, then charged for the shelf.
program-means-pulse = Ten seconds of load: resistance after one and after ten seconds.
program-means-storage = Charges to the voltage for the shelf.
stage-charge = charges
stage-discharge = discharges
stage-rest = rests
slot-kind-tester = tester
slot-kind-charger = charger
run-state-asked = About to begin
run-state-running = Running
run-state-waits = Waits for contact
run-state-ended = Done
run-state-stopped = Stopped
run-state-refused = Not begun
tester-state-unknown = not asked yet
tester-state-here = answers
tester-state-silent = silent
tester-state-nonsense = answers nonsense

program-current = { $asked } is more than this cell bears: at most { $most }.
program-voltage = { $asked } is more than this cell bears: at most { $most }.
program-voltage-low = { $asked } is lower than this cell bears: { $least } at least.
program-primary = A primary cell is never charged, and its discharge measures nothing here. It goes to the out-box.
program-family-unknown = Nobody knows its chemistry yet. Set it first: until then it is not charged.
program-step-first = First: { $step }
program-not-full = A run that does not begin full measures nothing: charge it first, or take the whole cycle.
program-slot-does-not-charge = This slot cannot charge.
program-slot-does-not-discharge = This slot cannot discharge.

alarm-name-too-hot = Too hot
alarm-name-over-voltage = Over-voltage
alarm-name-over-time = Takes too long
alarm-name-more-in-than-believed = More went in than it can hold
alarm-name-raced-to-full = Raced to full
alarm-name-reversed = Reversed
alarm-name-too-low = Too low
alarm-name-wrong-cell = Another cell
alarm-name-contact-lost = Contact lost
alarm-name-tester-silent = Tester silent
alarm-name-tester-talks-nonsense = Garbage on the line
alarm-name-no-watchdog = No watchdog
alarm-name-nobody-here = Nobody said that they are here
alarm-name-cold = Too cold to charge
alarm-name-run-broken-off = Broken off
alarm-name-take-it-off = Take it off now
alarm-name-charger-overdue = Charger overdue

alarm-too-hot = { $cell }. Its current is off. Do not touch it with bare hands; a metal tray, away from everything that burns, then the fire-safe box.
alarm-over-voltage = It reads { $volts }, full is { $full }. Its current is off. Take it out and have a coordinator look.
alarm-over-time = It took { $took } where { $planned } were planned. Its current is off. Feel whether it is warm, take it out.
alarm-more-in = { $put_in } went in, it is believed to hold { $believed }. Its current is off. Feel whether it is warm, take it out.
alarm-raced = From { $began } to full in { $took }, with { $put_in }. It holds hardly anything, or its resistance is high. Look whether it swells.
alarm-reversed = It reads { $volts }: it lies the wrong way round, or was driven below empty. Its current is off. Turn it only after a look.
alarm-too-low = It reads { $volts }; below { $least } it is not charged any more. Nothing was begun.
alarm-wrong-cell = The slot reads { $volts }; this cell should read { $least } to { $most }. Is it the cell that was scanned? Nothing was begun.
alarm-no-cell-felt = The slot reads { $volts }: no cell is felt. Seat it anew, look at its ends. Nothing was begun.
alarm-contact-lost = The slot reads { $volts }. Its current is off. Press the cell in; it goes on by itself.
alarm-contact-stays-lost = Contact did not come back within { $gone }. What was recorded is kept as a part.
alarm-cold = { $cell } is too cold to charge: metal grows inside. Let it warm up first.
alarm-nobody-here = Nobody said for { $minutes } that they are here. Everything that charges was stopped.
alarm-nobody-looks = Nobody said for { $minutes } that they are here, and { $slot } cannot be stopped from here. Go and look at cell { $cell }, or take it off.
alarm-no-watchdog = This tester has no watchdog that works: when we fall silent it would go on. It charges nothing.
alarm-tester-silent = The tester does not answer. Its own watchdog ends all currents. Look at its cable and its power.
alarm-tester-nonsense = What the tester answers makes no sense. Its own watchdog ends all currents. Look at its cable.
alarm-take-it-off = Cell { $cell } is at its cut-off and its load goes on: nobody but you can switch it off. Take it off now.
alarm-hazard-in-slot = Cell { $cell } was found to be a hazard. Its current is off where we can; take it out with its tray and into the fire-safe box.
program-only-watches = What hangs there only tells what flows: put the load on by hand and let it measure the capacity.
alarm-charger-overdue = Cell { $cell } in { $slot } should have been done long ago. Take it off and measure it.
run-broken-off = Nobody drove it for { $gone }, and its current had ended. What was recorded is kept as a part.
run-ended-high = The discharge ended at { $volts } by itself, far above { $least }. What was recorded is kept as a part.
run-forgotten = The tester began anew: it had no power, or was set back. What was recorded is kept as a part.
run-stopped-by-hand = Somebody stopped it. What was recorded is kept as a part.
run-stopped-by = { $by } took it off.
tester-is-silent = It does not answer.
tester-is-nonsense = What it answers makes no sense.

doing-wiring-testers = Setting up a tester
no-such-tester = There is no such tester.
no-such-slot = There is no slot { $number } here.
no-such-run = There is no such run.
no-such-alarm = There is no such alarm.
tester-channels = A tester has 1 to { $most } channels.
instrument-is-wired-already = { $instrument } is on the wire already.
tester-is-running = Something runs on it. Stop that first.
tester-address = "{ $typed }" is no address. It looks like TCPIP::192.168.1.20::5025::SOCKET, ASRL/dev/ttyUSB0::INSTR or socket://host:port.
tester-link = It is spoken to by lines that are answered (scpi), or prints lines by itself (lines).
address-is-taken = { $instrument } is at { $address } already.
map-unknown-key = "{ $key }" is nothing an instrument is asked for. There are: { $known }.
map-not-lines = { $key } takes lines of text, at most twelve.
map-measures-nothing = Say how it is measured: a line under measure or rows.
map-gives = "{ $wrong }" is nothing an answer can hold. There are { $known }, and voltage_v has to be one of them.
map-line-length = A line under { $key } has 1 to { $most } plain characters.
map-unknown-place = { $key }: nobody knows what to put for "{ $place }". There are: { $known }.
map-braces = { $key }: the braces in "{ $line }" are not closed, or hold more than a name.
slot-current = Currents lie between 0 and 20 A, and one of them is above 0.
slot-holds-a-cell = { $slot } holds cell { $cell }. Take it out first.
slot-is-put-away = { $slot } is put away.
cell-lies-in-slot = Cell { $cell } lies in { $slot } already.
slot-does-not-hold = { $slot } does not hold a cell of the shape of { $cell }.
slot-runs = Something runs in { $slot }. Stop it first.
slot-is-empty = Nothing lies in { $slot }. Scan the cell that you put in.
tester-has-no-watchdog = { $instrument } has no watchdog that works: when we fall silent it would go on. It charges nothing.
charger-only-charges = A charger without a wire charges, and nothing else.
run-is-over = This run is over already.
alarm-was-answered = { $by } was faster.

## The evening at the testers

no-evening-goes-on = No evening goes on.
this-evening = This evening
evening-still-runs = { $count ->
    [one] Cell { $cell } runs in { $slot } yet. Stop it, or stay until it is done: nothing runs where nobody is.
   *[other] { $count } cells run yet, one is { $cell } in { $slot }. Stop them, or stay until they are done: nothing runs where nobody is.
}
evening-ends = An evening ends in ten minutes to { $most } hours from now.
evening-people = Say who is here: one to { $most } people.
evening-later = Further evenings begin one after the other, each before it ends, twelve hours at most.
evening-what-if = There is nothing like that on the table to have one more of.
evening-lost = { $count ->
    [one] Not finished tonight any more: { $cells }.
   *[other] { $count } are not finished tonight any more: { $cells }.
}
evening-won = { $count ->
    [one] Finished tonight after all: { $cells }.
   *[other] { $count } more are finished tonight: { $cells }.
}
evening-moved = { $count ->
    [one] One cell goes into another slot.
   *[other] { $count } cells go into other slots.
}
evening-same = Nothing but the minutes changed.
evening-slipped = Cell { $cell } was not put into { $slot } when it was its turn.
evening-stopped = What ran on cell { $cell } in { $slot } was stopped.
evening-cell-lost = Cell { $cell } does not go on.
push-not-set-up = Push is not set up here: whoever runs Zembric names a contact first.
push-address = This is no address of a push service.
