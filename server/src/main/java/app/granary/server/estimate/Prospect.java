package app.granary.server.estimate;

import app.granary.core.destination.Destination;
import app.granary.core.destination.DestinationAssessment;
import app.granary.core.estimate.RunCorrection;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.estimate.TimeEstimate;
import app.granary.core.machine.Route;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.engine.host.HostEstimate;
import app.granary.engine.host.Storage;
import app.granary.server.problem.Refused;
import app.granary.server.image.Images;
import java.util.List;
import java.util.Map;

/**
 * Everything known about an image before it is made.
 *
 * @param pace        how many times as fast as the clock the links work; 1 unless devices are made up
 * @param corrections what earlier runs teach of the time, by destination
 */
public record Prospect(Source source, Storage storage, HostEstimate estimate, double pace, List<DestinationAssessment> assessments,
    Map<String, RunCorrection> corrections) {
    /** A disk with the computer it belongs to. */
    public record Source(HostComputer computer, HostDisk disk) {
        /** As sentences name it. */
        public String label() {
            return computer.name() + " " + disk.name();
        }
    }

    public SizeEstimate size() {
        return estimate.size();
    }

    /** What an image of it is recorded as wanted. */
    public Images.Wanted wanted() {
        HostDisk disk = source.disk();
        return new Images.Wanted(new Images.Of(source.computer().name(), disk.id(), disk.name(), disk.identity().serial()),
            storage.codec().word(), storage.level(), storage.comment(), size());
    }

    /** How a destination was weighed; refused when it is not known here. */
    public DestinationAssessment to(String destinationId) {
        return assessments.stream().filter(a -> a.destination().id().equals(destinationId)).findFirst()
            .orElseThrow(() -> Refused.notFound("destination"));
    }

    /** By a short test where one was made, by the link's usual rate elsewhere. */
    long readRateBytes() {
        return estimate.readRateBytes().orElse(source.disk().readRateBytes());
    }

    /** By rates alone. */
    public TimeEstimate plainTimeTo(Destination destination) {
        return TimeEstimate.of(size(), readRateBytes(), estimate.compressRateBytes(), destination.writeRateBytes(),
            routeTo(destination));
    }

    /** Which way its bytes go there. */
    public Route routeTo(Destination destination) {
        return Route.between(source.computer().machine(), destination.machine());
    }

    /** The same by the clock, as nights are planned. */
    public TimeEstimate clockTimeTo(Destination destination) {
        return TimeEstimate.of(size(), slower(readRateBytes()), estimate.clockCompressRateBytes(), slower(destination.writeRateBytes()),
            routeTo(destination)).corrected(correction(destination));
    }

    private long slower(long rate) {
        return Math.max(1, Math.round(rate / pace));
    }

    public RunCorrection correction(Destination destination) {
        return corrections.getOrDefault(destination.id(), RunCorrection.NONE);
    }

    /** By rates, as this office's own runs correct them. */
    public TimeEstimate timeTo(Destination destination) {
        return plainTimeTo(destination).corrected(correction(destination));
    }
}
