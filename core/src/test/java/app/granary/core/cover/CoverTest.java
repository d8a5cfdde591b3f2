package app.granary.core.cover;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.destination.PlaceKind;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CoverTest {
    private static final LocalDate TONIGHT = LocalDate.of(2026, 11, 24);

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "true |true |true |27 |LATE|due 27 days ago|", "false|false|true |1|LATE|due 1 day ago, and there is no image yet|",
        "false|false|true|0|NEVER|no image yet, due tonight|",
        "false|false|false|  |NEVER|no image yet, and no plan|", "true|false|true|0|UNPROVEN|no image of it is proven, due tonight|",
        "true|false|false||UNPROVEN|no image of it is proven|",
        "true|true|true|0|DUE|due tonight|", "true|true|false||UNPLANNED|no plan says when the next is due|",
        "true|true|true||COVERED|only when asked for|",
        "true|true|true|-1|COVERED|next due tomorrow|", "true|true|true|-5|COVERED|next due in 5 days|",
        "true|true|true|-5|PARTLY|partly: without recovery|partly: without recovery",
        "true|true|true|0|PARTLY|partly: without recovery, due tonight|partly: without recovery",
        "true|true|true|2|LATE|due 2 days ago; partly: without recovery|partly: without recovery"})
    void theFirstThatAppliesIsSaid(boolean any, boolean proven, boolean planned, Long lateDays, Cover.State state, String words,
        String partly) {
        assertEquals(new Cover(state, words),
            Cover.of(any, proven, partly == null ? "" : partly, planned, Optional.ofNullable(lateDays).map(TONIGHT::minusDays), TONIGHT));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|',
        value = {"|no proven image lies anywhere", "UNKNOWN|nobody noted where its drives are kept; note it on the Destinations page",
            "HERE,HERE|proven images lie here only; take a drive with one off site",
            "HERE,SAFE|proven images lie here and in the fire safe only; take a drive with one off site",
            "OFF_SITE|all proven images are off site; keep one at hand too", "HERE,OFF_SITE|", "SAFE,OFF_SITE,UNKNOWN|"})
    void twoKindsOfPlaceOneOffSite(String kinds, String missing) {
        List<PlaceKind> all = kinds == null ? List.of() : Arrays.stream(kinds.split(",")).map(PlaceKind::valueOf).toList();
        assertEquals(Optional.ofNullable(missing), TwoPlaces.missing(all));
    }
}
