package app.granary.core.machine;

import app.granary.core.measure.Sizes;
import java.util.OptionalLong;
import java.util.function.ToLongFunction;

/** Which way the bytes of one piece of work go. Only the office lends and takes what another machine writes and reads. */
public sealed interface Route {
    /** Both ends are in one machine. */
    record Within(Machine machine) implements Route {
        @Override
        public String sentence() {
            return machine.isOffice() ? "Nothing crosses the network."
                : "Both are in " + machine.name() + ": nothing crosses the network but words.";
        }
    }

    /** @param rate bytes a second that the network carries in that direction; empty when it was not measured */
    record Across(Machine from, Machine to, OptionalLong rate) implements Route {
        @Override
        public String sentence() {
            return "The bytes cross the network from " + from.name() + " to " + to.name()
                + (rate.isPresent() ? ", measured at " + Sizes.decimal(rate.getAsLong()) + " a second."
                    : "; how fast that is has not been measured yet.");
        }
    }

    /** @param drive the machine that has the drive */
    record None(Machine drive, Machine other) implements Route {
        @Override
        public String sentence() {
            return "Only " + Machine.OFFICE.name() + " lends its drives to other computers, and that drive is in " + drive.name()
                + ". Plug it into " + other.name() + ", or choose another.";
        }
    }

    String sentence();

    /** Of an image that is made: the machine with the disk does the work. */
    static Route captured(Machine disk, Machine drive) {
        return disk.is(drive) ? new Within(disk) : drive.isOffice() ? new Across(disk, drive, rate(disk, Network::upBytes))
            : new None(drive, disk);
    }

    /** Of an image that is restored: the machine with the target does the work. */
    static Route restored(Machine drive, Machine target) {
        return drive.is(target) ? new Within(target) : drive.isOffice() ? new Across(drive, target, rate(target, Network::downBytes))
            : new None(drive, target);
    }

    private static OptionalLong rate(Machine of, ToLongFunction<Network> direction) {
        return of.network().map(network -> OptionalLong.of(direction.applyAsLong(network))).orElse(OptionalLong.empty());
    }

    /** Whether there is any. */
    default boolean leads() {
        return !(this instanceof None);
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
