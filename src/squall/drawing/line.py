"""The hose from pump to outlet, what it costs, and the outlet itself."""

from squall.core.kit.parts import Hose
from squall.drawing.sheet import Drawn, Frame, Geometry, Sheet, head_at_pump
from squall.job.document.unsaid import unsaid_of
from squall.job.worked.assess import Assessment
from squall.words import say
from squall.words.forms import own_sizes
from squall.words.units import text


def hose(sheet: Sheet, frame: Frame, g: Geometry, a: Drawn, *, thumb: bool) -> None:
    """The run from pump to outlet, each piece a part of its own."""
    worst = worst_piece(a)
    for number, piece in enumerate(a.job.run):
        part = g.pieces[number]
        d = "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in part)
        sheet.room.line(part)
        hose = a.chosen.kit.hose if a.chosen is not None and not piece.fixed else None
        bore = hose.inner_diameter_m if hose is not None else piece.bore.si
        width = min(max(bore * 1000 / 6.0, 2.0), 7.0)
        if thumb:
            sheet.add("path", d=d, class_="hose", stroke_width=2.0, fill="none")
            continue
        loss = ""
        costly = ""
        if a.chosen is not None and sheet.stage == "lift":
            lost = a.chosen.piece_losses[number].head_loss_m
            loss = say(" loses {lost:head}", lost=lost)
            costly = " costly" if number == worst and lost > 0.0 else ""
        long = (
            say("length not said yet") if f"run.{piece.id}.length" in a.job.unsaid else text(piece.length.si, "length")
        )
        words = f"{long}, {_size_of(a, hose, piece.hose, bore)}{loss}"
        sheet.open_part(f"run:{piece.id}", f"{piece.name}: {words}", "survey")
        sheet.add("path", d=d, class_="hose-touch", fill="none")
        sheet.add("path", d=d, class_=f"hose{costly}", stroke_width=width, fill="none")
        middle = part[len(part) // 2]
        if sheet.stage in ("survey", "lift", "kits") and (frame.size != "narrow" or len(a.job.run) == 1 or costly):
            sheet.label(middle[0] + (12 if frame.narrow else 18), middle[1] + 20, words, "hose-words", named=middle)
        if number:
            x, y = part[0]
            sheet.add("path", d=f"M{x - 4:.1f} {y - 4:.1f} l8 8 m0 -8 l-8 8", class_="joint")
        sheet.close_part()


def _size_of(a: Drawn, hose: Hose | None, laid: str, bore_m: float) -> str:
    """What a hose is called: by its trade size where it is of the catalogue, else by its bore; one name everywhere."""
    known = hose or (a.parts.hoses.get(laid) if isinstance(a, Assessment) else None)
    return own_sizes(known.nominal) if known is not None else text(bore_m, "bore")


def other_places(sheet: Sheet, frame: Frame, g: Geometry, a: Drawn) -> None:
    """The other places that share the kit: where each leaves the run, at its own height."""
    behind = {piece.id: number for number, piece in enumerate(a.job.run, start=1)}
    for number, row in enumerate(a.job.outlets):
        joint = behind.get(row.after, 0)
        at_the_bank = next((point for point in g.pieces[0] if point[0] >= g.rim_x - 1.0), g.pieces[0][-1])
        x, y = g.pieces[joint - 1][-1] if joint else at_the_bank
        end_x = x + (g.x1 - x) * (number + 1) / (len(a.job.outlets) + 1)
        end_y = frame.y(min(max(row.lift.si, frame.low_m), frame.high_m))
        if sheet.stage == "thumb":
            sheet.add("path", d=f"M{x:.1f} {y:.1f} L{end_x:.1f} {end_y:.1f}", class_="hose branch", stroke_width=1.5, fill="none")  # fmt: skip
            continue
        sheet.room.line([(x, y), (end_x, end_y)])
        sheet.room.box(end_x - 11.0, end_y, end_x + 11.0, end_y + 12.0)
        told = say("{name}: {lift:head} up, {length:length} of hose, {share:share} of the water", name=row.name,
                   lift=row.lift.si, length=row.length.si, share=row.share.si)  # fmt: skip
        sheet.open_part(f"place:{row.id}", told, "survey")
        hose = a.chosen.kit.hose if a.chosen is not None and not row.fixed else None
        bore = hose.inner_diameter_m if hose is not None else row.bore.si
        width = min(max(bore * 1000 / 6.0, 2.0), 7.0)
        d = f"M{x:.1f} {y:.1f} L{end_x:.1f} {end_y:.1f}"
        sheet.add("path", d=d, class_="hose-touch", fill="none")
        sheet.add("path", d=d, class_="hose branch", stroke_width=width, fill="none")
        sheet.add("path", d=f"M{end_x - 10:.1f} {end_y + 3:.1f} l3 8 h14 l3 -8", class_="outlet", fill="none")
        if end_y + 11.0 < g.ground_y(end_x):  # it stands off the run's own ground, higher: on a leg
            sheet.add("line", x1=end_x, x2=end_x, y1=end_y + 11.0, y2=g.ground_y(end_x), class_="staff")
        if not frame.narrow or sheet.stage == "survey":
            sheet.label(end_x, end_y - 7, row.name, "hose-words", "middle", (end_x, end_y))
        sheet.close_part()


def worst_piece(a: Drawn) -> int:
    """Number of the piece that loses most head; -1 with nothing worked out."""
    if a.chosen is None:
        return -1
    losses = [loss.head_loss_m for loss in a.chosen.piece_losses]
    return losses.index(max(losses))


def grade_line(sheet: Sheet, frame: Frame, g: Geometry, a: Assessment) -> None:
    """Head along the line, to scale: what the pump gives, falling to the outlet."""
    if a.chosen is None or not (a.chosen.working.flow_m3_s or a.chosen.working.flow_at_least_m3_s):
        return
    head = head_at_pump(a.chosen)
    line = [(g.pump_x, frame.y(min(head, frame.high_m)))]
    for part, loss in zip(g.pieces, a.chosen.piece_losses, strict=True):
        head -= loss.head_loss_m
        line.append((part[-1][0], frame.y(min(max(head, frame.low_m), frame.high_m))))
    sheet.add("path", d="M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in line), class_="grade", fill="none")
    sheet.room.line(line)
    x, y = line[0]
    head = head_at_pump(a.chosen)
    told = say("head {chosen:head}", chosen=head) if frame.narrow else say("head {chosen:head} at the pump, falling to the outlet", chosen=head)  # fmt: skip
    sheet.label(x + 10, y - 6, told, "grade-words", named=(x, y))


def outlet_shape(sheet: Sheet, frame: Frame, g: Geometry, a: Drawn) -> None:
    """Trough, tank or return."""
    kind = a.job.outlet
    small = 0.45 if sheet.stage == "thumb" else 1.0
    x, y = g.x1, g.top_y
    if kind == "loop":
        sheet.add("path", d=f"M{x - 26 * small:.1f} {y + 9 * small:.1f} a{15 * small:.1f} {10 * small:.1f} 0 1 0 {30 * small:.1f} -4",
                  class_="outlet", fill="none")  # fmt: skip
        return
    if kind == "open":
        top = y + 10 * small
        sheet.add("path", d=f"M{x - 4:.1f} {top:.1f} l{5 * small:.1f} {12 * small:.1f} h{34 * small:.1f} l{5 * small:.1f} -{12 * small:.1f}",
                  class_="outlet", fill="none")  # fmt: skip
        sheet.add("path", d=f"M{x + 1:.1f} {top + 5 * small:.1f} h{40 * small:.1f}", class_="water-level")
        return
    height = 36 * small
    top = y if kind == "tank-below" else y - 2
    sheet.add("rect", x=x, y=top, width=46 * small, height=height, class_="outlet")
    sheet.add("rect", x=x + 1, y=top + height * 0.35, width=46 * small - 2, height=height * 0.65 - 1, class_="water")


def outlet_part(sheet: Sheet, frame: Frame, g: Geometry, a: Assessment) -> None:
    """The outlet, with litres needed and made."""
    chosen = a.judged.chosen
    worst = chosen.worst_month if chosen is not None else a.need_l.index(max(a.need_l))
    need = a.need_l[worst] / 1000.0
    names = {"open": say("trough or open outlet"), "tank-above": say("tank, filled from above"), "tank-below": say("tank, filled from below"),
             "loop": say("closed circuit")}  # fmt: skip
    name = names[a.job.outlet]
    known = a.light is not None and "litres" not in unsaid_of(a.job)
    said = []
    if known:
        said.append(say("needs {need:litres} a day", need=need))
    if known and chosen is not None and chosen.refusal is None:
        said.append(say("gets {made}", made=text(chosen.worst_litres / 1000.0, "litres")))
    sheet.open_part("outlet", " ".join([say("Outlet: {name}", name=name), *said]))
    sheet.add("rect", x=g.x1 - 8, y=g.top_y - 8, width=62.0, height=52.0, class_="touch")
    sheet.room.box(g.x1 - 6, g.top_y - 4, g.x1 + 48, g.top_y + 38)
    outlet_shape(sheet, frame, g, a)
    if known and sheet.stage in ("need", "power", "kits"):
        x, anchor = (frame.width - 4, "end") if frame.narrow else (g.x1 + 18, "start")
        top = max(g.top_y - 34, 15.0)
        for line, words in enumerate(said):
            sheet.label(x, top + 17 * line, words, "outlet-words", anchor)
    sheet.close_part()
