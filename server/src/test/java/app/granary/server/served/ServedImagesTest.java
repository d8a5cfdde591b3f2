package app.granary.server.served;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.contains;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Insides;
import app.granary.server.home.GranarySettings;
import app.granary.server.image.Images;
import app.granary.server.inside.Looks;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.net.ConnectException;
import java.net.InetAddress;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class ServedImagesTest {
    private static final UUID COPY = UUID.randomUUID();

    private final Looks looks = mock(Looks.class);
    private final Journal journal = mock(Journal.class);
    private ServedImages served;
    private ServedUses uses;

    @BeforeEach
    void begin() throws IOException {
        Insides insides = mock(Insides.class);
        GranarySettings settings = mock(GranarySettings.class);
        when(settings.home()).thenReturn(Path.of("none"));
        when(insides.shape(any())).thenReturn(new Insides.Shape(1 << 20, 512, "mbr"));
        when(looks.own(any())).thenReturn(new Images.Shelved("night one", "DATUM", "d", "disk 1", "S-1", "p", "PEG-1", 9, false, "",
            Images.Format.GRANARY, UUID.randomUUID(), true));
        when(looks.at(any(), any())).thenReturn(ImageAt.of("p", "night one"));
        served = new ServedImages(looks, insides, journal, Clock.systemUTC(), settings);
        uses = new ServedUses(served);
    }

    @AfterEach
    void end() {
        served.endAll();
    }

    /** The greeting is that of the protocol's document (NBD, "Newstyle negotiation"). */
    @Test
    void whatIsServedIsReadIsNotReleasedAndEnds() throws IOException {
        ServedImages.Served one = served.asDisk(COPY, "ada");
        URI address = URI.create(one.address());
        assertEquals("/night one", address.getPath());
        try (Socket reader = new Socket(InetAddress.getLoopbackAddress(), address.getPort())) {
            assertEquals("NBDMAGICIHAVEOPT", new String(reader.getInputStream().readNBytes(16), StandardCharsets.US_ASCII));
        }
        assertEquals(Map.of(COPY, Set.of("it is served as a disk by ada")), uses.now());
        verify(journal).add(eq("ada"), eq("serve"), eq("DATUM disk 1"), eq(Journal.Result.BEGUN), contains(one.address()), any());
        served.end(one.id(), "nell");
        assertEquals(Map.of(), uses.now());
        assertThrows(ConnectException.class, () -> new Socket(InetAddress.getLoopbackAddress(), address.getPort()));
        verify(journal).add(eq("nell"), eq("serve"), any(), eq(Journal.Result.DONE), eq("nell ended serving image night one."), any());
        assertThrows(Refused.class, () -> served.end(one.id(), "nell"), "twice");
        assertThrows(Refused.class, () -> served.pressSwitch(one.id()));
    }

    @Test
    void noMoreThanFourAreServedAtOnce() throws IOException {
        for (int i = 0; i < 4; i++) {
            served.asDisk(UUID.randomUUID(), "ada");
        }
        Refused fifth = assertThrows(Refused.class, () -> served.asDisk(COPY, "ada"));
        assertTrue(fifth.getMessage().startsWith("4 images are served already."), fifth.getMessage());
        assertEquals(4, served.all().size());
    }
}
