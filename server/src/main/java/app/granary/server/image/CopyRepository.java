package app.granary.server.image;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

/** Copies, each read together with its image: one query, however many. */
interface CopyRepository extends JpaRepository<Copy, UUID> {
    @Query("select c from Copy c join fetch c.image where c.shelf <> 'GONE'")
    List<Copy> notGone();

    @Override
    @Query("select c from Copy c join fetch c.image where c.id = :id")
    Optional<Copy> findById(UUID id);

    @Query("select c from Copy c join fetch c.image where c.image.id = :imageId")
    List<Copy> ofImage(UUID imageId);

    @Query("select c from Copy c join fetch c.image where c.image.id in (select n.id from Image n where n.diskId = :diskId and n.codec = "
        + ":codec) order by c.image.madeAt desc")
    List<Copy> ofDisk(String diskId, String codec);

    /** Case is not counted: some file systems do not tell such names apart. */
    @Query("select count(c) > 0 from Copy c where c.destinationId = :destinationId and lower(c.image.name) = lower(:name) and c.shelf <> "
        + "'GONE'")
    boolean isTaken(String destinationId, String name);

    @Query("select count(c) > 0 from Copy c where c.destinationId = :destinationId and c.folder = :folder and lower(c.image.name) = "
        + "lower(:name) and c.shelf <> 'GONE'")
    boolean isTaken(String destinationId, String folder, String name);

    @Query("select c from Copy c join fetch c.image where c.movingTo <> ''")
    List<Copy> moving();

    @Query("select c from Copy c join fetch c.image where c.image.lacks is null and c.shelf = 'KEPT'")
    List<Copy> untold();

    @Query("select c from Copy c join fetch c.image where c.image.diskId in :diskIds")
    List<Copy> ofDisks(Collection<String> diskIds);
}
