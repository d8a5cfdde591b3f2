package app.granary.core.disk;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertInstanceOf;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskRegister.Doubt;
import app.granary.core.disk.DiskRegister.Entry;
import app.granary.core.disk.DiskRegister.Resolution;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class DiskRegisterTest {
    private static final long GB = 1_000_000_000L;

    private static Entry entry(String id, String model, String serial, long gb, String wwn) {
        return new Entry(id, new DiskIdentity(model, serial, gb * GB, wwn));
    }

    private static SeenDisk seen(String attachment, String model, String serial, long gb, String wwn) {
        String id = serial.isBlank() ? attachment : model + "/" + serial;
        return new SeenDisk(id, attachment, "/dev/" + attachment, new DiskIdentity(model, serial, gb * GB, wwn), "usb1/" + attachment);
    }

    private static Resolution known(String id) {
        return new Resolution.Known(id);
    }

    private static Resolution doubt(Doubt why, List<String> twins, String... candidates) {
        return new Resolution.Ambiguous(why, twins, List.of(candidates));
    }

    static Stream<Arguments> cases() {
        Entry datum = entry("uuid-1", "Halden S2", "22-HS-1", 500, "");
        SeenDisk one = seen("a", "Halden S2", "22-HS-1", 500, "");
        SeenDisk inADock = seen("b", "Dock", "22-HS-1", 500, "");
        SeenDisk larger = seen("c", "Halden S2", "22-HS-1", 1000, "");
        SeenDisk namedA = seen("f", "Dock", "0001", 500, "naa.a");
        SeenDisk namedB = seen("g", "Dock", "0001", 500, "naa.b");
        return Stream.of(
            Arguments.of("a disk nobody knows", List.of(), List.of(one), Map.of(), one, new Resolution.New()),
            Arguments.of("reported, then attached", List.of(datum), List.of(one), Map.of(), one, known("uuid-1")),
            Arguments.of("in a dock that gives its own model", List.of(datum), List.of(inADock), Map.of(), inADock, known("uuid-1")),
            Arguments.of("a larger one in its place", List.of(datum), List.of(larger), Map.of(), larger, new Resolution.New()),
            Arguments.of("two that answer alike", List.of(datum), List.of(one, inADock), Map.of(), one,
                doubt(Doubt.TWINS, List.of("/dev/b"), "uuid-1")),
            Arguments.of("the other of the two", List.of(datum), List.of(one, inADock), Map.of(), inADock,
                doubt(Doubt.TWINS, List.of("/dev/a"), "uuid-1")),
            Arguments.of("alike but for the size", List.of(datum), List.of(one, larger), Map.of(), one,
                doubt(Doubt.TWINS, List.of("/dev/c"), "uuid-1")),
            Arguments.of("alike, and a person said which", List.of(datum), List.of(one, inADock), Map.of("b", "uuid-1"), inADock,
                known("uuid-1")),
            Arguments.of("the one that a person did not mean", List.of(datum), List.of(one, inADock), Map.of("b", "uuid-1"), one,
                doubt(Doubt.TWINS, List.of("/dev/b"))),
            Arguments.of("one serial, two world wide names", List.of(), List.of(namedA, namedB), Map.of(), namedA, new Resolution.New()),
            Arguments.of("one serial on record, two named disks", List.of(entry("x", "Dock", "0001", 500, "")), List.of(namedA, namedB),
                Map.of(), namedB,
                doubt(Doubt.SEVERAL, List.of(), "x")));
    }

    /** Disks that do not give their serial, and records made of such. */
    static Stream<Arguments> hiddenCases() {
        Entry datum = entry("uuid-1", "Halden S2", "22-HS-1", 500, "");
        Entry named = entry("uuid-2", "Halden S2", "22-HS-2", 500, "eui.0025385a71b00001");
        Entry bare = entry("bare", "Adapter", "", 500, "");
        SeenDisk one = seen("a", "Halden S2", "22-HS-1", 500, "");
        SeenDisk hidden = seen("d", "Adapter", "", 500, "");
        SeenDisk hiddenNamed = seen("e", "Adapter", "", 500, "eui.0025385a71b00001");
        return Stream.of(
            Arguments.of("no serial, none of its size on record", List.of(), List.of(hidden), Map.of(), hidden, new Resolution.New()),
            Arguments.of("no serial, one of its size on record", List.of(datum), List.of(hidden), Map.of(), hidden,
                doubt(Doubt.NO_SERIAL, List.of(), "uuid-1")),
            Arguments.of("no serial, and the one of its size is here", List.of(datum), List.of(hidden, one), Map.of(), hidden,
                new Resolution.New()),
            Arguments.of("no serial, tied", List.of(datum), List.of(hidden), Map.of("d", "uuid-1"), hidden, known("uuid-1")),
            Arguments.of("tied, then replugged", List.of(datum), List.of(hidden), Map.of("earlier", "uuid-1"), hidden,
                doubt(Doubt.NO_SERIAL, List.of(), "uuid-1")),
            Arguments.of("hidden serial, world wide name shown", List.of(named), List.of(hiddenNamed), Map.of(), hiddenNamed,
                known("uuid-2")),
            Arguments.of("a serial where one was hidden before", List.of(bare), List.of(seen("h", "Adapter", "77", 500, "")), Map.of(),
                seen("h", "Adapter", "77", 500, ""), doubt(Doubt.HIDDEN_BEFORE, List.of(), "bare")),
            Arguments.of("two on record with that serial, one of its model", List.of(datum, entry("y", "Dock", "22-HS-1", 500, "")),
                List.of(one),
                Map.of(), one, known("uuid-1")));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource({"cases", "hiddenCases"})
    void whoADiskIs(String what, List<Entry> known, List<SeenDisk> attached, Map<String, String> tied, SeenDisk seen, Resolution expected) {
        assertEquals(expected, new DiskRegister(known, tied, attached).resolve(seen));
    }

    /** Few models, serials and sizes, so that many answer alike. */
    @Test
    void neverTwoDisksAreTheSameOneAndTheOrderOfLookingDoesNotMatter() {
        Random random = new Random(20261127);
        int doubts = 0;
        for (int round = 0; round < 20_000; round++) {
            List<Entry> known = new ArrayList<>();
            for (int i = random.nextInt(4); i > 0; i--) {
                known.add(entry("k" + i, pick(random, "m", "n"), pick(random, "", "1", "2"), 1 + random.nextInt(2),
                    pick(random, "", "", "w", "v")));
            }
            List<SeenDisk> attached = new ArrayList<>();
            for (int i = random.nextInt(4); i > 0; i--) {
                attached.add(seen("s" + i, pick(random, "m", "n"), pick(random, "", "1", "2"), 1 + random.nextInt(2),
                    pick(random, "", "", "w", "v")));
            }
            DiskRegister register = new DiskRegister(known, Map.of(), attached);
            List<SeenDisk> shuffled = new ArrayList<>(attached);
            Collections.shuffle(shuffled, random);
            DiskRegister otherwise = new DiskRegister(known, Map.of(), shuffled);
            Set<String> ids = new HashSet<>();
            Map<SeenDisk, Resolution> found = new HashMap<>();
            for (SeenDisk each : attached) {
                Resolution resolution = register.resolve(each);
                found.put(each, resolution);
                if (resolution instanceof Resolution.Known one) {
                    assertTrue(ids.add(one.diskId()), () -> one + " twice among " + attached + " of " + known);
                    assertTrue(each.twins(attached).isEmpty(),
                        () -> each + " was taken for " + one + " though another answers alike: " + attached);
                }
                doubts += resolution instanceof Resolution.Ambiguous ? 1 : 0;
                assertEquals(same(resolution), same(otherwise.resolve(each)));
            }
        }
        assertTrue(doubts > 1000, "the cases are too easy: " + doubts);
    }

    /** Twins are told in the order they were seen in. */
    private static Object same(Resolution resolution) {
        return resolution instanceof Resolution.Ambiguous doubt ? List.of(doubt.why(), new HashSet<>(doubt.twins()), doubt.candidates())
            : resolution;
    }

    private static String pick(Random random, String... of) {
        return of[random.nextInt(of.length)];
    }

    private static List<SeenDisk> alike(String attachments) {
        return attachments.chars().mapToObj(c -> seen(String.valueOf((char) c), "Dock", "0001", 500, "")).toList();
    }

    @Test
    void theOneThatIsPulledAndPluggedInAgainIsMeant() {
        record Case(String looks, Class<?> ends, String told) {
        }
        for (Case each : List.of(
            new Case("ab ab", Replugging.State.Watching.class, ""),
            new Case("ab a", Replugging.State.Pulled.class, ""),
            new Case("ab a ac", Replugging.State.Told.class, "c"),
            new Case("ab ac", Replugging.State.Told.class, "c"),
            new Case("ab  ac", Replugging.State.Unclear.class, ""),
            new Case("ab abc", Replugging.State.Unclear.class, ""),
            new Case("ab cd", Replugging.State.Unclear.class, ""),
            new Case("ab a ab", Replugging.State.Told.class, "b"),
            new Case("ab  ab", Replugging.State.Unclear.class, ""),
            new Case("ab a acd", Replugging.State.Unclear.class, ""),
            new Case("a  b", Replugging.State.Told.class, "b"),
            new Case("ab a ac cd", Replugging.State.Told.class, "c"))) {
            String[] looks = each.looks.split(" ", -1);
            Replugging state = Replugging.of(alike(looks[0]));
            for (int i = 1; i < looks.length; i++) {
                state = state.look(alike(looks[i]));
            }
            assertInstanceOf(each.ends, state.state(), each.looks);
            if (state.state() instanceof Replugging.State.Told told) {
                assertEquals(each.told, told.attachment(), each.looks);
            }
        }
    }
}
