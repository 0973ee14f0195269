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
refused-marked = { $count ->
    [one] { $cells } carries a mark for life: recovered from very low.
   *[other] { $cells } carry a mark for life: recovered from very low.
}
refused-recovery-unproved = The recovery of { $cells } is not proved by a reading at rest.
to-do-hazard = Into the fire-safe box; the pack is taken apart.
to-do-exchange = Exchange what is out.
to-do-decide = Ask a coordinator to decide.
to-do-next-steps = Do the next step of each first; it stands on the cell's page.
to-do-mend-plan = Mend the plan first.
to-do-pick = Pick each cell by its label, so that none is taken for another.
to-do-take-apart = Take it apart; it goes to nobody.
to-do-look = Look at each and note its voltage; joined in parallel, a cell has that of its group.
to-do-commission = Measure its groups, its polarity, its charge and its load first.
to-do-rest-and-measure = Let each rest { $rest } after its last charge or load, then measure it.
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
