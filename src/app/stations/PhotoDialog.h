// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "app/stations/PhotoView.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace thinline::app {

/// A photo of the loaded mat: its corners, the scraps on it, and which stock each of them is.
class PhotoDialog : public QDialog {
    Q_OBJECT
  public:
    PhotoDialog(Workbench& bench, const QString& path, QWidget* parent = nullptr);
    bool isSettled() const { return !m_looker.isRunning(); }

  private:
    using QDialog::open;
    void open(const QString& path);
    void look(bool byHand);
    void showFound();
    void showUsed();
    std::vector<std::string> stocks() const;
    void takeScraps();

    Workbench& m_bench;
    std::string m_name; ///< of the file
    std::shared_ptr<const raster::Picture> m_photo;
    std::optional<job::OnMat> m_found;
    PhotoView* m_view;
    QLabel* m_words;
    QVBoxLayout* m_rows;
    std::vector<QComboBox*> m_choices;
    QPushButton* m_take;
    Task m_looker;
};

} // namespace thinline::app
