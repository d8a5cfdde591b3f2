package app.granary.engine.sample;

import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyedPartition;
import app.granary.engine.capture.ChunkReader;
import app.granary.engine.codec.Chunks;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.stream.LongStream;

/** The chunks with content, grouped by partition and by how full they are: chunks of one group are alike in what they store. */
final class ChunkGroups {
    /** A group: its chunks, and the bytes to be read in them. */
    static final class Group {
        final LongStream.Builder chunks = LongStream.builder();
        long count;
        long contentBytes;
    }

    private final Map<String, Group> groups = new LinkedHashMap<>();
    private long zeroChunks;
    private long zeroRuns;

    ChunkGroups(DiskSurvey survey, ChunkReader reader) {
        long chunks = Chunks.count(survey.sizeBytes());
        long next = 0;
        while (next < chunks) {
            long content = reader.nextWithContent(next);
            if (content > next) {
                zeroChunks += content - next;
                zeroRuns++;
            } else {
                long bytes = reader.contentBytes(content);
                Group group = groups.computeIfAbsent(name(survey, content, bytes), name -> new Group());
                group.chunks.add(content);
                group.count++;
                group.contentBytes += bytes;
                content++;
            }
            next = content;
        }
    }

    private static String name(DiskSurvey survey, long chunk, long bytes) {
        long middle = chunk * Chunks.BYTES + Chunks.BYTES / 2;
        String where = "outside partitions";
        for (SurveyedPartition each : survey.partitions()) {
            if (!each.partition().container() && each.partition().startBytes() <= middle && middle < each.partition().endBytes()) {
                where = each.partition().label();
            }
        }
        return where + (bytes >= Chunks.BYTES * 0.95 ? ", full chunks"
            : bytes >= Chunks.BYTES / 2 ? ", mostly full chunks" : ", mostly free chunks");
    }

    Map<String, Group> groups() {
        return groups;
    }

    long zeroChunks() {
        return zeroChunks;
    }

    long zeroRuns() {
        return zeroRuns;
    }
}
