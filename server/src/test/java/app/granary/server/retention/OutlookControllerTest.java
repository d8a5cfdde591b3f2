package app.granary.server.retention;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.core.destination.Destination;
import app.granary.core.retention.WhatIf;
import java.io.IOException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.Test;

class OutlookControllerTest {
    private static Destination drive(String name, long free) {
        return new Destination(name, name, "", true, true, 1_000_000_000_000L, free, 0, OptionalLong.empty(), 1, Set.of());
    }

    private static WhatIf.Outlook outlook(String name, WhatIf.Refusal refusal) {
        return new WhatIf.Outlook(name,
            List.of(new WhatIf.Point(LocalDate.of(2026, 11, 24), 2, 20), new WhatIf.Point(LocalDate.of(2027, 11, 24), 9, 90)),
            Optional.ofNullable(refusal));
    }

    @Test
    void aRefusalIsDatedAndComesWithWhatWouldHelp() throws IOException {
        Outlooks outlooks = mock(Outlooks.class);
        WhatIf.Refusal refusal = new WhatIf.Refusal(LocalDate.of(2027, 3, 2), "LEDGER system disk", 117_000_000_000L, 40_000_000_000L);
        when(outlooks.year(any()))
            .thenReturn(new Outlooks.Year(List.of(drive("PEG-1", 100), drive("SMALL", 10), drive("CAIRN", 900_000_000_000L)),
                List.of(outlook("PEG-1", refusal), outlook("SMALL", null), outlook("CAIRN", null)), List.of("ISOBAR, whole disk")));
        OutlookController.OutlookPage page = new OutlookController(outlooks).year(null, null, null, null, null, null);
        assertEquals("", page.policy());
        assertEquals(LocalDate.of(2027, 3, 2), page.destinations().get(0).refuses());
        assertEquals("On Tue 2 Mar 2027 it will refuse LEDGER system disk, which needs 117 GB where 40.0 GB are free beyond the reserve.",
            page.destinations().get(0).sentence());
        List<String> advice = page.destinations().get(0).advice();
        assertEquals(3, advice.size());
        assertTrue(advice.get(2).startsWith("Send it to CAIRN instead"), "the small one has no room either: " + advice);
        assertEquals("It takes every image of the coming year; 9 lie there at its end.", page.destinations().get(1).sentence());
        assertEquals(List.of(), page.destinations().get(1).advice());
        assertEquals(List.of("ISOBAR, whole disk"), page.uncounted());
        assertEquals("Kept are the last one, and the newest proven one always stays.",
            new OutlookController(outlooks).year(1, null, null, null, null, null).policy());
    }
}
