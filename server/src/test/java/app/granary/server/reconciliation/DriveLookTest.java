package app.granary.server.reconciliation;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doReturn;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.host.FolderShelf;
import app.granary.engine.host.Shelf;
import app.granary.engine.host.ImageStore;
import app.granary.server.image.Elsewhere;
import app.granary.server.image.Images;
import app.granary.server.retention.Releases;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DriveLookTest {
    @TempDir
    private Path folder;

    /** A drive that is taken off while it is looked at leaves an empty folder behind: that is no loss of what lies on it. */
    @Test
    void aDriveThatWentAwayMeanwhileHasLostNothing() throws Exception {
        ImageStore store = mock(ImageStore.class);
        Images images = mock(Images.class);
        Elsewhere elsewhere = mock(Elsewhere.class);
        Releases releases = mock(Releases.class);
        UUID image = UUID.randomUUID();
        Shelf empty = new FolderShelf(folder, Files.createDirectories(folder.resolve("images")), bag -> List.of());
        FaultException away = Fault.of(Fault.Kind.NOT_RECOGNISED, "peg-1", "The destination is not attached.").asException();
        when(images.onDrive("peg-1")).thenReturn(List.of(new Images.OnDrive(image, "LEDGER", true)));
        when(elsewhere.lies(any(), any())).thenReturn(false);
        DriveLook look = new DriveLook(store, images, elsewhere, releases);
        when(store.shelf("peg-1")).thenReturn(empty).thenThrow(away);
        assertThrows(FaultException.class, () -> look.of("peg-1"));
        doReturn(empty).when(store).shelf("peg-1");
        assertEquals(Set.of(image), look.of("peg-1").missing());
    }
}
