package app.granary.core.image;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionType;
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LacksTest {
    private static final long GB = 1_000_000_000L;

    private static Partition partition(int number, long from, long to) {
        return new Partition(number, from * GB, (to - from) * GB, new PartitionType("", "data", false), number == 2 ? "recovery" : "", "",
            0, false);
    }

    /** A disk of 100 GB with partitions of 10 to 60 and of 60 to 90 GB. */
    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "gpt  | 100 | gpt  | ''", "gpt | | gpt | ''", "gpt | 120 | gpt | ''",
        "none | 50  | gpt  | partly: without all but one partition", "none | | mbr | partly: without all but one partition",
        "none | 100 | none | ''", "none | | none | ''", "none | 50 | none | partly: without all but one partition",
        "gpt  | 95  | gpt  | ''", "gpt | 70 | gpt | partly: without partition 2 (\"recovery\")",
        "gpt  | 20  | gpt  | partly: without partition 1 and partition 2 (\"recovery\")"})
    void whatAnImageMadeElsewhereLacks(String scheme, Long sizeGb, String diskScheme, String words) {
        DiskInside inside = new DiskInside(sizeGb == null ? OptionalLong.empty() : OptionalLong.of(sizeGb * GB), scheme, "",
            scheme.equals("none") ? List.of()
                : List.of(partition(1, 10, 60), partition(2, 60, 90)),
            "", "");
        assertEquals(words, Lacks.of(inside, diskScheme, 100 * GB).words());
    }
}
