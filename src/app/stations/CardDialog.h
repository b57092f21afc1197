// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "job/CardSteps.h"
#include "job/DrawerSteps.h"

#include <QDialog>

class QCheckBox;
class QComboBox;
class QGridLayout;
class QLabel;
class QLineEdit;
class QVBoxLayout;

namespace thinline::app {

/// What card there is for this job: sheets of their own for some stocks, scraps, and what of the mat stays free. Each change
/// is a step of the job.
class CardDialog : public QDialog {
    Q_OBJECT
  public:
    explicit CardDialog(Workbench& bench, QWidget* parent = nullptr);

  signals:
    void wantsKeepOut(); ///< a part of the mat is to be drawn on the bench
    void wantsPhoto(const QString& path);

  private:
    QWidget* buildSheets();
    QWidget* buildScraps();
    QWidget* buildMat();
    void refresh();
    void showSheets();
    /// A line of a list, and what may be done with it.
    struct Line {
        QString words;
        struct Deed {
            QString label;
            std::function<void()> act;
        };
        std::vector<Deed> deeds;
    };
    void showList(QVBoxLayout* into, const std::vector<Line>& lines);
    void showScraps();
    void showDrawer();
    void keepInDrawer(const design::Scrap& scrap);
    bool changeDrawer(const std::function<base::Result<design::Drawer>(const design::Drawer&)>& change, const QString& told);
    void take(const QString& name, base::Result<job::Job> job);
    void addTyped();
    void addDrawn();
    void addPhoto();
    std::string scrapStock() const;

    Workbench& m_bench;
    QGridLayout* m_sheets;
    std::vector<std::string> m_shown; ///< stocks with a row
    std::vector<QComboBox*> m_choices;
    std::vector<QCheckBox*> m_tapedStocks; ///< beside them
    QVBoxLayout* m_scraps;
    QLabel* m_inDrawer; ///< above what is there
    QVBoxLayout* m_drawerScraps;
    design::Drawer m_drawer; ///< as it was last read
    QComboBox *m_from, *m_way; ///< of whole sheets on the mat
    QComboBox* m_stock;
    QLineEdit* m_size;
    QVBoxLayout* m_kept;
    QCheckBox* m_taped;
    QLabel* m_note;
};

} // namespace thinline::app
