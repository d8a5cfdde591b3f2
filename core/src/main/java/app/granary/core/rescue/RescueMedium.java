package app.granary.core.rescue;

import app.granary.core.inventory.Firmware;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * A stick or disc of the register.
 *
 * @param name     as on its label
 * @param contents what is on it, with its version; an empty string when it is blank
 * @param starts   what it starts: {@code "BIOS"}, {@code "UEFI"}
 * @param since    when it came into use; its wear is counted from there
 * @param writes   how often it was written as a whole
 * @param errors   how often writing or reading it failed
 * @param retired  whether it is not to be used any more
 * @param tests    of starting a computer with it
 */
public record RescueMedium(String name, String contents, List<String> starts, Instant since, int writes, int errors, boolean retired,
    List<BootTest> tests) {
    /** A stick used as a boot device wears out; one is tried again after so long, and after it was written (common practice, no source). */
    static final Duration TEST_STANDS = Duration.ofDays(180);
    private static final Duration OLD = Duration.ofDays(4 * 365);
    private static final int MANY_WRITES = 100;

    /**
     * @param computerId of the computer on record; an empty string for one that is not
     * @param computer   its name
     * @param writeCount how often the medium had been written when it was tried: a test before a later writing says nothing of what is on
     *                   it now
     */
    public record BootTest(String computerId, String computer, Instant at, boolean started, int writeCount) {
    }

    public RescueMedium {
        starts = List.copyOf(starts);
        tests = List.copyOf(tests);
    }

    /** The newest test with a computer since it was last written; empty without one. */
    public Optional<BootTest> test(String computerId) {
        return tests.stream().filter(test -> test.computerId.equals(computerId) && test.writeCount == writes)
            .max(Comparator.comparing(BootTest::at));
    }

    /** Whether it is known to start that computer. */
    public boolean starts(String computerId) {
        return !retired && !contents.isEmpty() && test(computerId).map(BootTest::started).orElse(false);
    }

    /** Whether its kind of firmware is among those it starts. */
    public boolean suits(Firmware firmware) {
        return firmware == Firmware.UNKNOWN || starts.contains(firmware.name());
    }

    /** Why it should be tried again; empty when it need not be. */
    public Optional<String> due(Instant now) {
        if (retired || contents.isEmpty()) {
            return Optional.empty();
        }
        Optional<BootTest> newest = tests.stream().filter(test -> test.writeCount == writes).max(Comparator.comparing(BootTest::at));
        if (newest.isEmpty()) {
            return Optional.of(tests.isEmpty() ? "It was never tried. Start a computer with it once."
                : "It was written since it was last tried. Start a computer with it once.");
        }
        if (!newest.get().started) {
            return Optional.of("It did not start " + newest.get().computer + ". Write it anew, or take another.");
        }
        long days = Duration.between(newest.get().at, now).toDays();
        return days >= TEST_STANDS.toDays() ? Optional.of("It was last tried " + days + " days ago. Start a computer with it once.")
            : Optional.empty();
    }

    /** What its age and use say; empty while nothing does. */
    public List<String> wear(Instant now) {
        List<String> out = new ArrayList<>();
        if (errors > 0) {
            out.add(errors + (errors == 1 ? " error" : " errors") + " so far: do not rely on it.");
        }
        if (writes >= MANY_WRITES) {
            out.add("Written " + writes + " times.");
        }
        if (Duration.between(since, now).compareTo(OLD) > 0) {
            out.add("In use for " + Duration.between(since, now).toDays() / 365 + " years: have a new one ready.");
        }
        return out;
    }
}
