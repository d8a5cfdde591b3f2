package app.granary.server.computer;

import app.granary.core.disk.DiskRegister;
import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface DiskRepository extends JpaRepository<Disk, String> {
    /** What each says it is, without what lies on it: asked at every use of a disk. */
    @Query("select new app.granary.core.disk.DiskRegister$Entry(d.id, new app.granary.core.disk.DiskIdentity(d.model, d.serial, "
        + "d.sizeBytes, d.worldWideName)) from Disk d")
    List<DiskRegister.Entry> entries();

    /** All disks with their partitions and computers in one query, removed ones too. */
    @Query("select distinct d from Disk d join fetch d.computer left join fetch d.partitions order by d.place")
    List<Disk> all();

    @Query("select distinct d from Disk d join fetch d.computer left join fetch d.partitions where d.computer.id = :computer order by "
        + "d.place")
    List<Disk> of(UUID computer);
}
