#pragma once
#include "app/budget/budget_stage.h"
#include "app/frame/window.h"
#include "app/look/manners.h"
#include "app/pull/pull_stage.h"
#include "app/survey/survey_stage.h"
#include "app/terminate/terminate_stage.h"
#include "app/test/test_stage.h"

namespace burin {

/// Session, window and the stages that are built, put together. Used by the program and by tests.
struct Application {
    explicit Application(Catalogue catalogue);
    /// Shows everything in another language, and keeps that for the user; the window is made anew.
    /// False: it cannot be read, and all stays.
    bool speakAs(const QString& code);
    Application(const Application&) = delete;
    Application& operator=(const Application&) = delete;
    Manners manners{nullptr};
    Session session;
    SurveyStage* survey = nullptr;
    BudgetStage* budget = nullptr;
    PullStage* pull = nullptr;
    TerminateStage* terminate = nullptr;
    TestStage* test = nullptr;
    std::unique_ptr<Window> window;

private:
    void makeWindow();
};

/// What must be set before QApplication: which fonts count. `dataFolder` may be empty.
void prepareFonts(const std::string& programPath);

} // namespace burin
