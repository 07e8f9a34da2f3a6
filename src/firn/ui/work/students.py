"""Who practises: the workbook's owner or one of the students."""

from msgspec.structs import replace
from PySide6.QtWidgets import QMenu, QWidget

from firn.core.book.practice_edits import AddStudent, ChangeStudent, DeleteStudent, Practise
from firn.core.book.students import OWNER, Student
from firn.session.fresh import new_id
from firn.ui.widgets.labels import shown
from firn.ui.work.context import Context, Handlers


class Students:
    """Works on the students of the workbook; the menu of them opens under `anchor`."""

    def __init__(self, context: Context, anchor: QWidget) -> None:
        self._context, self._anchor = context, anchor
        self.menu: QMenu | None = None

    def handlers(self) -> Handlers:
        return {"whose": self.show_menu}

    def show_menu(self) -> None:
        """Offer who can practise, and what is done with the one who does."""
        book = self._context.bridge.book
        self.menu = menu = QMenu(self._anchor)
        for key, name in ((OWNER, "You"), *((s.id, shown(s.name)) for s in book.students)):
            action = menu.addAction(name)
            action.setCheckable(True)
            action.setChecked(key == book.who)
            action.triggered.connect(lambda _=False, key=key: self.practise(key))
        menu.addSeparator()
        menu.addAction("Another student…").triggered.connect(lambda _=False: self.add())
        student = book.student
        if student is not None:
            change, away = menu.addAction("Change…"), menu.addAction("Delete")
            change.triggered.connect(lambda _=False: self.change(student))
            away.triggered.connect(lambda _=False: self.delete(student))
        menu.setActiveAction(menu.actions()[0])
        menu.popup(self._anchor.mapToGlobal(self._anchor.rect().bottomLeft()))

    def practise(self, key: str) -> None:
        """From now on somebody else practises; the steps are shown as they see them."""
        self._context.do(Practise(key))
        self._follow()

    def add(self) -> None:
        """Ask for another student, who practises from now on."""
        asked = self._ask(Student(new_id(), ""))
        if asked is not None:
            self._context.do(AddStudent(asked))
            self._follow()

    def change(self, student: Student) -> None:
        """Ask again what is known of a student."""
        asked = self._ask(student)
        if asked is not None:
            self._context.do(ChangeStudent(asked))
            self._follow()

    def delete(self, student: Student) -> None:
        """Delete a student with what is kept of them."""
        book = self._context.bridge.book
        lines = sum(e.student == student.id for e in book.log)
        takes = sum(t.student == student.id for t in book.takes)
        self._context.do(DeleteStudent(student.id))
        self._context.say(
            f"{student.name} is deleted, with {lines} lines of the log and {takes} takes. Ctrl+Z brings them back."
        )

    def _ask(self, student: Student) -> Student | None:
        from firn.ui.dialogs.student import StudentDialog

        dialog = StudentDialog(self._context.bridge.book, student, self._context.window)
        return dialog.student if self._context.prompts.run(dialog) else None

    def _follow(self) -> None:
        """Show steps as who practises sees them, and say who it is."""
        desk, student = self._context.desk, self._context.bridge.book.student
        desk.show_as(replace(desk.view, mirrored=student is not None and student.mirrored))
        mirrored = ", shown as in a mirror" if desk.view.mirrored else ""
        self._context.say(f"{student.name} practises{mirrored}." if student is not None else "You practise.")
