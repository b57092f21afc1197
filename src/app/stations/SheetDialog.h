// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "app/stations/PhotoView.h"
#include "job/SheetInPhoto.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QPushButton;

namespace thinline::app {

/// The sheet in a photo: its four corners, proposed and dragged, and what size it really has.
class SheetDialog : public QDialog {
    Q_OBJECT
  public:
    SheetDialog(Workbench& bench, QWidget* parent = nullptr);
    bool isSettled() const { return !m_looker.isRunning(); }

  private:
    void openPhoto();
    void look(bool byHand);
    void take(const std::optional<job::SheetInPhoto>& sheet);

    Workbench& m_bench;
    design::SourceId m_of;
    std::shared_ptr<const raster::Picture> m_photo;
    std::optional<job::SheetInPhoto> m_sheet;
    PhotoView* m_view;
    QComboBox* m_size;
    QLabel* m_words;
    QPushButton *m_take, *m_asItIs;
    Task m_looker;
};

} // namespace thinline::app
