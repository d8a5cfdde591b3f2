package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** An NTFS volume's file table: finds records, and the runs and values of their attributes wherever they are spread. */
final class NtfsVolume {
    /** Extension records followed for one attribute; more than any file needs that is worth reading here. */
    private static final int MOST_EXTENSIONS = 4096;
    /** An attribute list is one row per piece of an attribute; this many bytes are some ten thousand pieces. */
    private static final int MOST_LIST = 512 << 10;

    private final BlockSource source;
    private final long start;
    private final NtfsGeometry geometry;
    private NtfsRuns mft;

    NtfsVolume(BlockSource source, long start, NtfsGeometry geometry) throws IOException, Untrusted {
        this.source = source;
        this.start = start;
        this.geometry = geometry;
        // record 0 describes the table itself; its first clusters are where the boot sector says
        long firstClusters = Math.max(1, geometry.recordBytes() / geometry.clusterBytes());
        this.mft = new NtfsRuns(
            List.of(new NtfsRuns.Run(geometry.mftCluster(), Math.min(firstClusters, geometry.clusters() - geometry.mftCluster()))));
        NtfsRecord own = record(0);
        this.mft = joined(own.all(NtfsRecord.DATA, "").stream().map(each -> new Piece(own, each)).toList());
        this.mft = runs(own, NtfsRecord.DATA, "");
    }

    NtfsGeometry geometry() {
        return geometry;
    }

    /** Where the file table itself lies. */
    NtfsRuns table() {
        return mft;
    }

    NtfsRecord record(long number) throws IOException, Untrusted {
        byte[] raw = new byte[geometry.recordBytes()];
        Untrusted.unless(number >= 0 && number < Long.MAX_VALUE / geometry.recordBytes(),
            "its file table speaks of a record that cannot be");
        read(mft, number * geometry.recordBytes(), ByteBuffer.wrap(raw));
        return NtfsRecord.read(number, raw);
    }

    /** @return first byte of a record of the file table, from the start of the partition */
    long placeOf(long record) throws Untrusted {
        long left = record * geometry.recordBytes();
        for (NtfsRuns.Run run : mft.runs()) {
            long bytes = run.count() * geometry.clusterBytes();
            if (left < bytes && run.cluster() != NtfsRuns.HOLE) {
                return run.cluster() * geometry.clusterBytes() + left;
            }
            left -= bytes;
        }
        throw new Untrusted("its file table ends before what it speaks of");
    }

    /**
     * A value wherever it lies.
     *
     * @param holder the record that holds its beginning
     * @param runs   none when it is resident
     */
    record Stream(NtfsRecord holder, NtfsRecord.Attribute first, NtfsRuns runs) {
    }

    Stream stream(NtfsRecord base, int type, String name) throws IOException, Untrusted {
        List<Piece> pieces = pieces(base, type, name);
        Piece first = pieces.stream().filter(each -> each.attribute.firstVcn() == 0).findFirst()
            .orElseThrow(() -> new Untrusted("it has no content that is known here"));
        return new Stream(first.holder, first.attribute, joined(pieces));
    }

    private record Piece(NtfsRecord holder, NtfsRecord.Attribute attribute) {
    }

    /** Runs of an attribute, gathered from its record and from those its attribute list names. */
    NtfsRuns runs(NtfsRecord base, int type, String name) throws IOException, Untrusted {
        return joined(pieces(base, type, name));
    }

    private List<Piece> pieces(NtfsRecord base, int type, String name) throws IOException, Untrusted {
        List<NtfsRecord.Attribute> lists = base.all(NtfsRecord.ATTRIBUTE_LIST, "");
        if (lists.isEmpty()) {
            return base.all(type, name).stream().map(each -> new Piece(base, each)).toList();
        }
        List<Piece> out = new ArrayList<>();
        Bytes list = value(base, lists.get(0), MOST_LIST);
        int followed = 0;
        for (int at = 0; at + 26 <= list.length();) {
            int length = list.u16(at + 4);
            Untrusted.unless(length >= 26 && length % 8 == 0 && at + length <= list.length(),
                "an attribute list in its file table makes no sense");
            int nameBytes = list.u8(at + 6) * 2;
            int nameAt = list.u8(at + 7);
            Untrusted.unless(nameBytes == 0 || nameAt + nameBytes <= length, "an attribute list in its file table makes no sense");
            String own = nameBytes == 0 ? "" : list.text(at + nameAt, nameBytes, java.nio.charset.StandardCharsets.UTF_16LE);
            if (list.u32(at) == type && own.equals(name)) {
                long reference = list.i64(at + 16) & 0xFFFF_FFFF_FFFFL;
                long vcn = list.i64(at + 8);
                Untrusted.unless(++followed <= MOST_EXTENSIONS, "an attribute in its file table is spread over too many records");
                NtfsRecord holder = reference == base.number() ? base : record(reference);
                NtfsRecord.Attribute piece = holder.all(type, name).stream().filter(a -> a.resident() || a.firstVcn() == vcn).findFirst()
                    .orElseThrow(() -> new Untrusted("an attribute in its file table has a piece missing"));
                out.add(new Piece(holder, piece));
            }
            at += length;
        }
        return out;
    }

    private NtfsRuns joined(List<Piece> pieces) throws Untrusted {
        Map<Long, NtfsRuns> byVcn = new LinkedHashMap<>();
        for (Piece each : pieces) {
            if (!each.attribute.resident()) {
                byVcn.put(each.attribute.firstVcn(), decode(each.holder, each.attribute));
            }
        }
        NtfsRuns all = new NtfsRuns(List.of());
        for (long vcn : byVcn.keySet().stream().sorted(Comparator.naturalOrder()).toList()) {
            Untrusted.unless(vcn == all.clusters(), "an attribute in its file table has a piece missing");
            all = all.then(byVcn.get(vcn));
        }
        return all;
    }

    private NtfsRuns decode(NtfsRecord record, NtfsRecord.Attribute attribute) throws Untrusted {
        return NtfsRuns.decode(record.content(), attribute.at(), attribute.end(), geometry.clusters());
    }

    /** The value of an attribute whose runs lie in its own record. */
    Bytes value(NtfsRecord record, NtfsRecord.Attribute attribute, int most) throws IOException, Untrusted {
        if (attribute.resident()) {
            return Bytes.of(record.content().slice(attribute.at(), attribute.end() - attribute.at()));
        }
        Untrusted.unless(attribute.dataBytes() >= 0 && attribute.dataBytes() <= most,
            "an attribute in its file table is larger than Granary reads");
        byte[] out = new byte[(int) attribute.dataBytes()];
        read(decode(record, attribute), 0, ByteBuffer.wrap(out));
        return Bytes.of(out);
    }

    /** Reads along runs; holes give zeros. */
    void read(NtfsRuns runs, long offset, ByteBuffer into) throws IOException, Untrusted {
        long at = 0;
        long wanted = offset;
        for (NtfsRuns.Run run : runs.runs()) {
            long end = at + run.count() * geometry.clusterBytes();
            while (into.hasRemaining() && wanted < end) {
                int piece = (int) Math.min(into.remaining(), end - wanted);
                ByteBuffer part = into.slice(into.position(), piece);
                if (run.cluster() != NtfsRuns.HOLE) {
                    source.read(start + run.cluster() * geometry.clusterBytes() + (wanted - at), part);
                }
                into.position(into.position() + piece);
                wanted += piece;
            }
            at = end;
        }
        Untrusted.unless(!into.hasRemaining(), "its file table ends before what it speaks of");
    }

    /** Clusters of an attribute as byte ranges of the partition, in rising order; holes take none. */
    List<long[]> ranges(NtfsRuns runs) {
        List<long[]> out = new ArrayList<>();
        for (NtfsRuns.Run run : runs.runs()) {
            if (run.cluster() != NtfsRuns.HOLE) {
                out.add(new long[] {run.cluster() * geometry.clusterBytes(), (run.cluster() + run.count()) * geometry.clusterBytes()});
            }
        }
        out.sort(Comparator.comparingLong(range -> range[0]));
        return out;
    }
}
