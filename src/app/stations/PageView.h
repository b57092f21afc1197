// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

class QLabel;
class QPushButton;

namespace thinline::app {

/// One page of several, with buttons to turn over. It knows which is shown; who owns it paints that one.
class PageView : public QWidget {
    Q_OBJECT

  public:
    /// `most`: how large a page is shown, px.
    explicit PageView(QSize most, QWidget* parent = nullptr);
    /// Says how many there are; the page shown stays as far as there are as many.
    void setCount(int pages);
    int shown() const { return m_shown; } ///< from 0; 0 without any
    /// Turns to the page with that number from 0, or the nearest, and says so in no signal.
    void turnTo(int page);
    /// Says more beside the number.
    void setRemark(const QString& remark);
    void showImage(const QImage& image);
    void showWords(const QString& words);

  signals:
    void turned(int page); ///< by hand

  private:
    void tellNumber();

    int m_count = 0, m_shown = 0;
    QString m_remark;
    QLabel *m_page, *m_number;
    QPushButton *m_earlier, *m_later;
};

} // namespace thinline::app
