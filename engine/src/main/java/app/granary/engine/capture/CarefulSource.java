package app.granary.engine.capture;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.SourceOver;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.image.BadStretch;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * A disk read as far as it can be: what fails is read again, then halved down to the sectors that cannot be read, which become zeros and
 * are told. A disk that cannot be read at all any more is a failure, not a long list of bad sectors. Safe for several threads.
 */
public final class CarefulSource extends SourceOver {
    private static final int TRIES = 3;
    /** So many places all over the disk are tried before it is said that nothing of it can be read. */
    private static final int PROBES = 64;
    /**
     * More than this are no longer spots on a disk: the disk is failing, and reading on wears what is left of it (common practice, no
     * source).
     */
    private static final int MOST_BAD_SECTORS = 65_536;

    private final AtomicInteger badSectors = new AtomicInteger();
    private final Map<Long, Long> unread = new ConcurrentSkipListMap<>();
    private volatile long readOnce = -1;

    public CarefulSource(BlockSource source) {
        super(source);
    }

    /** What could not be read so far and reads as zeros, a survey's too; in order, neighbours joined. */
    public List<BadStretch> bad() {
        List<BadStretch> out = new ArrayList<>();
        unread.forEach((start, length) -> tell(new BadStretch(start, length), out));
        return out;
    }

    /** Whether any sector could not be read so far, a survey's too. */
    boolean hasBadSectors() {
        return badSectors.get() > 0;
    }

    /** Reads with bad sectors as zeros, untold: for a survey, which reads again what the capture tells of. */
    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        read(offsetBytes, into, new ArrayList<>());
    }

    /**
     * @param bad gets what could not be read, in order, neighbours joined
     * @throws app.granary.core.fault.FaultException when the disk as a whole cannot be read any more
     */
    void read(long offsetBytes, ByteBuffer into, List<BadStretch> bad) throws IOException {
        int at = into.position();
        try {
            source.read(offsetBytes, into);
            readOnce = offsetBytes;
        } catch (java.nio.channels.ClosedByInterruptException stopped) {
            throw stopped;
        } catch (IOException failed) {
            into.position(at);
            bisect(offsetBytes, into, bad, failed);
        }
    }

    private void bisect(long offset, ByteBuffer into, List<BadStretch> bad, IOException failed) throws IOException {
        int at = into.position();
        int length = into.remaining();
        if (tried(offset, into, at)) {
            return;
        }
        if (length <= sectorBytes()) {
            requireThere(failed);
            if (badSectors.incrementAndGet() > MOST_BAD_SECTORS) {
                throw Fault.of(Fault.Kind.DEVICE_FAILED, name(), "More than " + MOST_BAD_SECTORS + " sectors of " + name()
                    + " cannot be read: the disk is failing. What was read is kept and can be carried on. Do not use the disk further "
                    + "than needed; it may be best left to a specialist.")
                    .asException();
            }
            while (into.hasRemaining()) {
                into.put((byte) 0);
            }
            unread.merge(offset, (long) length, Math::max);
            tell(new BadStretch(offset, length), bad);
            return;
        }
        // halves end on whole sectors of the disk
        long middle = Math.max(offset / sectorBytes() + 1, (offset + length / 2) / sectorBytes()) * sectorBytes();
        int first = (int) Math.min(length, middle - offset);
        half(offset, into, at, first, bad, failed);
        if (first < length) {
            half(offset + first, into, at + first, length - first, bad, failed);
        }
    }

    private void half(long offset, ByteBuffer into, int at, int length, List<BadStretch> bad, IOException failed) throws IOException {
        ByteBuffer half = into.duplicate().position(at).limit(at + length);
        try {
            source.read(offset, half);
            readOnce = offset;
        } catch (java.nio.channels.ClosedByInterruptException stopped) {
            throw stopped;
        } catch (IOException again) {
            half.position(at);
            bisect(offset, half, bad, failed);
        }
        into.position(at + length);
    }

    /** Only the smallest pieces are worth several tries; of a longer one the halves are tried next anyway. */
    private boolean tried(long offset, ByteBuffer into, int at) throws IOException {
        for (int attempt = 1; attempt < TRIES && into.remaining() <= sectorBytes(); attempt++) {
            try {
                source.read(offset, into);
                return true;
            } catch (java.nio.channels.ClosedByInterruptException stopped) {
                throw stopped;
            } catch (IOException again) {
                into.position(at);
            }
        }
        return false;
    }

    /** What could be read before must still be; otherwise it is not a spot that fails. */
    private void requireThere(IOException failed) throws IOException {
        long known = readOnce;
        if (known < 0) {
            requireAnything(failed);
            return;
        }
        ByteBuffer probe = ByteBuffer.allocate(sectorBytes());
        try {
            source.read(known / sectorBytes() * sectorBytes(), probe);
        } catch (java.nio.channels.ClosedByInterruptException stopped) {
            throw stopped;
        } catch (IOException gone) {
            throw unreadable(failed);
        }
    }

    /** A disk of which nothing at all can be read is no disk with bad sectors: an image of it would be zeros and a list. */
    private void requireAnything(IOException failed) throws IOException {
        long sectors = sizeBytes() / sectorBytes();
        for (long i = 0; i < Math.min(PROBES, sectors); i++) {
            long at = (sectors - 1) * i / Math.max(1, Math.min(PROBES, sectors) - 1) * sectorBytes();
            try {
                source.read(at, ByteBuffer.allocate(sectorBytes()));
                readOnce = at;
                return;
            } catch (java.nio.channels.ClosedByInterruptException stopped) {
                throw stopped;
            } catch (IOException gone) {
                // the next place may answer
            }
        }
        throw unreadable(failed);
    }

    private IOException unreadable(IOException failed) {
        return failed instanceof FaultException told ? told
            : Fault.of(Fault.Kind.DEVICE_FAILED, name(), name() + " cannot be read any more: " + failed.getMessage()
                + ". Nothing was changed on it; check its cable.").asException();
    }

    private void tell(BadStretch stretch, List<BadStretch> bad) {
        BadStretch last = bad.isEmpty() ? null : bad.get(bad.size() - 1);
        if (last != null && last.endBytes() == stretch.startBytes()) {
            bad.set(bad.size() - 1, new BadStretch(last.startBytes(), last.sizeBytes() + stretch.sizeBytes()));
        } else {
            bad.add(stretch);
        }
    }
}
