package app.granary.core.machine;

import app.granary.core.measure.Sizes;
import java.util.OptionalLong;
import java.util.stream.LongStream;

/** Which way the bytes of one piece of work go. Computers that joined speak with the office alone, so that it is on every way. */
public sealed interface Route {
    /** Both ends are in one machine. */
    record Within(Machine machine) implements Route {
        @Override
        public String sentence() {
            return machine.isOffice() ? "Nothing crosses the network."
                : "Both are in " + machine.name() + ": nothing crosses the network but words.";
        }
    }

    /**
     * @param rate  bytes a second that the network carries in that direction, by what of the way was measured; empty when nothing was
     * @param whole whether all of the way was
     */
    record Across(Machine from, Machine to, OptionalLong rate, boolean whole) implements Route {
        @Override
        public String sentence() {
            return "The bytes cross the network from " + from.name() + " to " + to.name()
                + (from.isOffice() || to.isOffice() ? "" : ", by way of " + Machine.OFFICE.name())
                + (whole && rate.isPresent() ? ", measured at " + Sizes.decimal(rate.getAsLong()) + " a second."
                    : "; how fast that is has not been measured yet.");
        }
    }

    String sentence();

    /** From a disk to a drive, or back. The slowest part of the way counts. */
    static Route between(Machine from, Machine to) {
        if (from.is(to)) {
            return new Within(from);
        }
        boolean whole = (from.isOffice() || from.network().isPresent()) && (to.isOffice() || to.network().isPresent());
        LongStream rates = LongStream.concat(from.network().stream().mapToLong(Network::upBytes),
            to.network().stream().mapToLong(Network::downBytes));
        return new Across(from, to, rates.min(), whole);
    }

    /** Bytes a second of the network on it; empty where none is crossed, or it was not measured. */
    default OptionalLong crossing() {
        return this instanceof Across across ? across.rate() : OptionalLong.empty();
    }

    /** A rate of bytes a second, as the network on the way lets it through. */
    default long slowed(long rate) {
        return Math.min(rate, crossing().orElse(Long.MAX_VALUE));
    }
}
