package app.granary.server.image;

import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface ImageFileRepository extends JpaRepository<ImageFile, UUID> {
    List<ImageFile> findByCopyIdOrderByPlace(UUID copyId);
}
