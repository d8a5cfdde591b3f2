package app.granary.server.destination;

import app.granary.core.destination.Destination;
import app.granary.core.destination.PlaceKind;
import app.granary.core.destination.RoomTrend;
import app.granary.server.home.Pace;
import app.granary.server.journal.Journal;
import app.granary.server.problem.IfMatch;
import app.granary.server.problem.Refused;
import app.granary.server.working.Working;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Destinations on one scale, with their place and how their room goes. */
@RestController
@RequestMapping("/api/v1/destinations")
class DestinationController {
    private static final double DAY_SECONDS = 86_400;

    private final Destinations destinations;
    private final Promises promises;
    private final Contents contents;
    private final Journal journal;
    private final Pace pace;

    DestinationController(Destinations destinations, Promises promises, Contents contents, Journal journal, Pace pace) {
        this.pace = pace;
        this.destinations = destinations;
        this.promises = promises;
        this.contents = contents;
        this.journal = journal;
    }

    /**
     * @param writeRateBytes what its link takes in a second, by the clock
     * @param measuredAt     when its room was last measured
     * @param usableBytes    what images may take of the free room: without what is promised and the reserve; 0 when it is full
     * @param fileLimitBytes longest file it takes; null when there is no limit
     * @param full           when it will be full; null while its history is too short to tell
     * @param readings       stored bytes over time, oldest first
     * @param moves          where it was taken, newest first
     * @param version        for If-Match
     */
    record DestinationLine(String id, String name, boolean attached, String placeText, DestinationForm form, Instant placeSince,
        long capacityBytes, long freeBytes, long promisedBytes,
        long reserveBytes, long usableBytes, @Schema(types = {
            "integer", "null"}) Long fileLimitBytes,
        long writeRateBytes, Instant measuredAt, int images, long imageBytes,
        @Schema(types = {"object", "null"}) Full full, List<Room> readings, List<Move> moves, long version){
    }

    /**
     * @param sentence when, in words
     * @param working  how it came about
     */
    record Full(String sentence, Working working) {
    }

    record Room(Instant at, long storedBytes) {
    }

    record Move(Instant at, String account, String place) {
    }

    @GetMapping
    List<DestinationLine> all() throws IOException {
        Map<String, Contents.Lying> lying = contents.lying();
        return destinations.now().stream().map(each -> line(each, lying.getOrDefault(each.id(), new Contents.Lying(0, 0)))).toList();
    }

    private DestinationLine line(Destination d, Contents.Lying lying) {
        KnownDestination known = destinations.known(d);
        List<RoomReading> readings = destinations.readingsOf(d.id());
        return new DestinationLine(d.id(), d.name(), d.attached(), d.place(), destinations.form(known), known.placeSince(),
            d.capacityBytes(), d.freeBytes(), promises.promisedBytes(d.id(), ""), d.reserveBytes(),
            d.promising(promises.promisedBytes(d.id(), "")).usableBytes(),
            Working.orNull(d.fileSizeLimitBytes()), Math.round(d.writeRateBytes() / pace.times()), known.measuredAt(), lying.count(),
                lying.bytes(),
            full(d, readings).orElse(null),
            readings.stream().map(r -> new Room(r.at(), r.storedBytes())).toList(),
            destinations.movesOf(d.id()).stream().map(m -> new Move(m.at(), m.account(), m.words())).toList(), known.version());
    }

    private static Optional<Full> full(Destination d, List<RoomReading> readings) {
        long free = d.freeBytes() - d.reserveBytes();
        List<RoomTrend.Reading> points = readings.stream()
            .map(r -> new RoomTrend.Reading(r.at().getEpochSecond() / DAY_SECONDS, r.storedBytes())).toList();
        return RoomTrend.of(points, free)
            .map(trend -> new Full(sentence(free, trend), new Working(d.name() + " full", "by its own history", List.of(
                Working.Line.text("Readings", "" + points.size()),
                Working.Line.size("Grows by, a day", Math.max(0, Math.round(trend.bytesPerDay()))),
                Working.Line.size("Free now", d.freeBytes()),
                Working.Line.size("Kept in reserve, 2 % or 1 GB", d.reserveBytes()),
                Working.Line.text("Full at the earliest", days(trend.daysLow())),
                Working.Line.text("Likely", days(trend.days())).asResult(),
                Working.Line.text("At the latest", days(trend.daysHigh()))),
                List.of("A straight line through what lay there at each reading, by least squares; nine times in ten the day lies between.",
                    "Would change it: releasing old images, a smaller codec, another drive."))));
    }

    private static String sentence(long free, RoomTrend trend) {
        if (free <= 0) {
            return "full";
        }
        return trend.days().isPresent() ? "in " + days(trend.days()) : "not growing";
    }

    private static String days(Optional<Double> days) {
        return days.map(d -> d < 1 ? "less than a day" : d < 400 ? counted(d, "day") : counted(d / 365, "year"))
            .orElse("never, as it goes");
    }

    private static String counted(double count, String what) {
        return Math.round(count) + " " + what + (Math.round(count) == 1 ? "" : "s");
    }

    /** @param exactly where, or an empty string */
    record PlaceForm(@NotNull String kind, @NotNull @Size(max = 200, message = "may have at most 200 characters") String exactly) {
    }

    /** It was taken somewhere else. */
    @PostMapping("/{id}/place")
    DestinationLine place(@PathVariable String id, @Valid @RequestBody PlaceForm form, Principal who) throws IOException {
        PlaceKind kind = PlaceKind.parse(form.kind).orElseThrow(() -> new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "kind",
            "\"" + form.kind + "\" is no kind of place. Choose one from the list."));
        destinations.place(id, kind, form.exactly.strip(), who.getName());
        DestinationLine now = all().stream().filter(line -> line.id().equals(id)).findFirst()
            .orElseThrow(() -> Refused.notFound("destination"));
        journal.add(who.getName(), "move destination", now.name(), Journal.Result.DONE,
            now.name() + " lies " + kind.words(form.exactly.strip()) + " now.", Journal.Facts.of(List.of(id), Map.of(), "/destinations"));
        return now;
    }

    /** What a person says of it: where it lies, what it is swapped with, how it is taken off. */
    @PutMapping("/{id}")
    DestinationLine describe(@PathVariable String id, @RequestHeader("If-Match") String version, @Valid @RequestBody DestinationForm form,
        Principal who) throws IOException {
        boolean moved = destinations.describe(id, IfMatch.version(version), form, who.getName());
        DestinationLine now = all().stream().filter(line -> line.id().equals(id)).findFirst()
            .orElseThrow(() -> Refused.notFound("destination"));
        journal.add(who.getName(), moved ? "move destination" : "change destination", now.name(), Journal.Result.DONE,
            moved ? now.name() + " lies " + now.placeText() + " now."
                : now.name() + ": rotation \"" + form.rotation() + "\", eject \"" + form.ejectNote() + "\", health \"" + form.healthNote()
                    + "\".");
        return now;
    }
}
