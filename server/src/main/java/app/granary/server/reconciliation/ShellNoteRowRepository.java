package app.granary.server.reconciliation;

import org.springframework.data.jpa.repository.JpaRepository;

interface ShellNoteRowRepository extends JpaRepository<ShellNoteRow, String> {
}
